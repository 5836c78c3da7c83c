/** Figures by what they are, a line each. */
export function Facts({ rows }: { rows: [what: string, value: string][] }) {
  return (
    <dl className="grid grid-cols-[minmax(0,1fr)_auto]">
      {rows.map(([what, value]) => (
        <div key={what} className="contents">
          <dt className="border-t border-rule py-1.5 text-soft">{what}</dt>
          <dd className="border-t border-rule py-1.5 pl-3 text-right font-bold">{value}</dd>
        </div>
      ))}
    </dl>
  );
}
