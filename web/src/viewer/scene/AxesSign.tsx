import { axesOf, nameOf, type Eye } from "../camera/eye";

/** Where one looks from, as a small drafting sign: the three axes as they lie now, the upright one named, and the view in words. */
export function AxesSign({ eye }: { eye: Pick<Eye, "turn" | "tilt"> }) {
  const { right, up } = axesOf(eye);
  const reach = 26;
  const ends = ([0, 1, 2] as const).map((k) => ({ x: right[k] * reach, y: -up[k] * reach, name: ["x", "y", "z"][k]! }));
  return (
    <div className="pointer-events-none absolute right-4 bottom-3 z-10 flex flex-col items-center">
      <svg width="84" height="72" viewBox="-42 -38 84 76" aria-hidden="true" className="text-ink">
        {ends.map(({ x, y, name }) => (
          <g key={name}>
            <line
              x2={x}
              y2={y}
              stroke="currentColor"
              strokeWidth={name === "z" ? 2 : 1.3}
              strokeDasharray={name === "z" ? undefined : name === "x" ? "7 2 1.5 2" : "4 2"}
            />
            {Math.hypot(x, y) > 13 && (
              <text
                x={x * 1.32}
                y={y * 1.32}
                dominantBaseline="central"
                textAnchor="middle"
                className="fill-current font-mono text-[10px]"
              >
                {name}
              </text>
            )}
          </g>
        ))}
        <circle r="1.8" className="fill-current" />
      </svg>
      <p data-testid="looks-from" role="status" className="bg-table/80 px-1 font-narrow text-sm font-semibold">
        {nameOf(eye)}
      </p>
    </div>
  );
}
