import type { WindowPoint } from "./camera/points";

type Props = {
  at: WindowPoint;
  zone: string;
  isSecond: boolean;
  /** What the keys do; left out for a corner. */
  words?: string;
};

/** Where a corner would be set by key: a cross over the sheet, with the field it stands in. */
export function Cross({ at, zone, isSecond, words }: Props) {
  return (
    <>
      <svg className="pointer-events-none absolute inset-0 z-20 h-full w-full" aria-hidden data-testid="cross">
        <g className="stroke-raised" strokeWidth={4}>
          <path d={`M${at.x - 14} ${at.y}h28M${at.x} ${at.y - 14}v28`} />
        </g>
        <g className="stroke-spruce" strokeWidth={1.6}>
          <path d={`M${at.x - 14} ${at.y}h28M${at.x} ${at.y - 14}v28`} />
        </g>
        {zone && (
          <text x={at.x + 10} y={at.y - 8} className="fill-ink font-mono text-sm font-semibold">
            {zone}
          </text>
        )}
      </svg>
      <p
        role="status"
        className="pointer-events-none absolute bottom-9 left-1/2 z-20 w-max max-w-[calc(100%-16px)] -translate-x-1/2 border border-rule bg-raised px-3 py-1 text-center"
      >
        {words ??
          `${isSecond ? "Second corner" : "First corner"}${zone && ` in ${zone}`}: arrows move the cross, with Shift finer; Enter sets it`}
      </p>
    </>
  );
}
