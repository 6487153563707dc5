import type { Verdict } from "../api/types";

export const verdictWords: Record<Verdict, string> = {
  approve: "Approve",
  approveAsNoted: "As noted",
  returnForChanges: "Return",
};

/** The notched rim of a seal: twelve small arcs round a disc. */
const RIM = Array.from({ length: 12 }, (_, i) => {
  const at = (k: number) => [8 + 6.6 * Math.cos((k * Math.PI) / 6), 7.5 + 6.6 * Math.sin((k * Math.PI) / 6)] as const;
  const [x, y] = at(i);
  const [nx, ny] = at(i + 1);
  return `${i === 0 ? `M${x} ${y}` : ""}A1.75 1.75 0 0 1 ${nx} ${ny}`;
}).join("");

/** What a seat says of an item, told by shape first: seal, open seal with a line, folded corner with a turning arrow, dotted ring. */
export function VerdictMark({
  verdict,
  size = 16,
  decorative,
}: {
  verdict: Verdict | null;
  size?: number;
  decorative?: boolean;
}) {
  const words = verdict
    ? { approve: "approved", approveAsNoted: "approved as noted", returnForChanges: "returned" }[verdict]
    : "no verdict yet";
  return (
    <svg
      width={size}
      height={size}
      viewBox="0 0 16 16"
      role={decorative ? undefined : "img"}
      aria-label={decorative ? undefined : words}
      aria-hidden={decorative}
      className="shrink-0"
    >
      {verdict === "approve" && <path d={RIM} className="fill-spruce" />}
      {verdict === "approveAsNoted" && (
        <g className="stroke-spruce" fill="none" strokeWidth="1.3">
          <g transform="translate(1.1 0) scale(.86)">
            <path d={RIM} strokeWidth="1.5" />
            <circle cx="8" cy="7.5" r="2.2" className="fill-spruce" stroke="none" />
          </g>
          <path d="M3 15.2h10" strokeWidth="1.6" />
        </g>
      )}
      {verdict === "returnForChanges" && (
        <g className="stroke-rust" fill="none" strokeWidth="1.4" strokeLinejoin="round">
          <path d="M10 1.5H2.5v13h11V5z" />
          <path d="M10 1.5V5h3.5z" className="fill-rust" />
          <path d="M10.6 11.6A3 3 0 1 1 8 7.4" strokeLinecap="round" />
          <path d="M6.9 5.9L8.4 7.5L6.7 8.9" strokeLinecap="round" />
        </g>
      )}
      {!verdict && (
        <circle
          cx="8"
          cy="8"
          r="6"
          fill="none"
          className="stroke-soft"
          strokeWidth="1.4"
          strokeDasharray="0.2 2.9"
          strokeLinecap="round"
        />
      )}
    </svg>
  );
}
