import { useCatalogue } from "../api/queries";
import { Sheet, Tag } from "../ui/Sheet";

const KINDS: Record<string, string> = { pump: "Pumps", hose: "Hoses", gauge: "Gauges" };

/** What is in the van, as the rig can use it. */
export function Kit() {
  const { data } = useCatalogue();
  const kit = data?.kit ?? [];
  return (
    <>
      <h1 className="mb-4 text-[28px]">Kit</h1>
      {data && kit.length === 0 && <p className="sheet p-6">No kit is listed. The rig can be put together from the catalogue all the same.</p>}
      <div className="grid gap-4 md:grid-cols-3">
        {Object.entries(KINDS).map(([kind, label]) => {
          const items = kit.filter((k) => k.kind === kind);
          return items.length === 0 ? null : (
            <Sheet key={kind} title={label} aside={items.length}>
              <ul className="list-none p-0">
                {items.map((k) => (
                  <li key={k.id} className="flex min-h-12 items-center justify-between gap-2 border-t border-rule py-2 first:border-0">
                    <span>{k.name}</span>
                    <Words values={k.values} />
                  </li>
                ))}
              </ul>
            </Sheet>
          );
        })}
      </div>
    </>
  );
}

function Words({ values }: { values: Record<string, unknown> }) {
  if (values.kind === "pressure") return <Tag tone="caution">pressure hose</Tag>;
  if (values.oil === "used") return <Tag tone="caution">oil due</Tag>;
  if (typeof values.blank_off_micron === "number") return <span className="figure text-soft">{values.blank_off_micron} µ</span>;
  if (typeof values.resolution_micron === "number") return <span className="figure text-soft">±{values.resolution_micron} µ</span>;
  return null;
}
