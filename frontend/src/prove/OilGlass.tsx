const FILL: Record<string, string> = { fresh: "#f3e7b3", amber: "#d9a441", dark: "#4a3420", milky: "#efe9d8" };

/** Oil in a pump's sight glass, drawn: told by texture as well as by tint. */
export function OilGlass({ look }: { look: string }) {
  const id = `oil-${look}`;
  return (
    <svg viewBox="0 0 80 80" width="76" height="76" aria-hidden>
      <defs>
        <clipPath id={id}>
          <path d="M8 38 Q24 34 40 38 T72 38 V80 H8Z" />
        </clipPath>
      </defs>
      <circle cx="40" cy="40" r="32" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="5" />
      <g clipPath={`url(#${id})`}>
        <circle cx="40" cy="40" r="29" fill={FILL[look] ?? "none"} />
        {look === "amber" && [0, 1, 2].map((i) => <path key={i} d={`M14 ${50 + 8 * i}H66`} stroke="#a97520" strokeWidth="1.5" />)}
        {look === "dark" && Array.from({ length: 14 }, (_, i) => <path key={i} d={`M${-10 + 7 * i} 80L${30 + 7 * i} 36`} stroke="#1c130a" strokeWidth="2.2" />)}
        {look === "milky" && (
          <g fill="none" stroke="#a89f86" strokeWidth="2">
            <path d="M14 50q8-6 14 0t14 0t14 0t12 0" />
            <path d="M18 59q7-5 12 0t12 0t12 0" />
            {[24, 34, 45, 55].map((x, i) => (
              <circle key={x} cx={x} cy={i % 2 ? 66 : 54} r={i % 2 ? 3 : 2} />
            ))}
          </g>
        )}
        {look === "fresh" && <path d="M22 48l10-8M22 56l18-14" stroke="#fffdf0" strokeWidth="3" />}
      </g>
      <circle cx="40" cy="40" r="29" fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      <path d="M8 34h5M67 34h5M8 28h5M67 28h5" stroke="var(--ink)" strokeWidth="2.5" />
    </svg>
  );
}
