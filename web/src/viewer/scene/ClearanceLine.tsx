import { placeOf, type Eye, type V3 } from "../camera/eye";

/** The way that is measured between two things, with its two ends. */
export function ClearanceLine({
  eye,
  between,
  frame,
}: {
  eye: Eye;
  between: readonly [V3, V3];
  frame: React.RefObject<HTMLElement | null>;
}) {
  if (!frame.current) return null;
  const { clientWidth, clientHeight } = frame.current;
  const [a, b] = between.map((p) => placeOf(eye, p, clientWidth, clientHeight));
  return (
    <svg
      aria-hidden="true"
      data-testid="clearance"
      className="pointer-events-none absolute inset-0 z-10 h-full w-full text-rust"
    >
      <line x1={a!.x} y1={a!.y} x2={b!.x} y2={b!.y} stroke="currentColor" strokeWidth={2} />
      {[a!, b!].map((p, i) => (
        <circle key={i} cx={p.x} cy={p.y} r={3.5} className="fill-current" />
      ))}
    </svg>
  );
}
