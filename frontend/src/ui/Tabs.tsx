import { Tabs as RT } from "radix-ui";
import type { ReactNode } from "react";

export interface Tab {
  key: string;
  label: ReactNode;
  body: ReactNode;
}

/** Sheets behind one another, told apart by name; arrow keys move between them. */
export function Tabs({ label, tabs, value, onChange }: { label: string; tabs: Tab[]; value?: string; onChange?: (v: string) => void }) {
  return (
    <RT.Root defaultValue={tabs[0]?.key} value={value} onValueChange={onChange} className="sheet min-w-0">
      <RT.List aria-label={label} className="flex flex-wrap border-b-2 border-ink">
        {tabs.map((t) => (
          <RT.Trigger
            key={t.key}
            value={t.key}
            className="casual min-h-12 border-r-2 border-rule px-4 font-bold text-soft last:border-r-0 hover:text-ink data-[state=active]:bg-green-wash data-[state=active]:text-ink"
          >
            {t.label}
          </RT.Trigger>
        ))}
      </RT.List>
      {tabs.map((t) => (
        <RT.Content key={t.key} value={t.key} className="p-4 outline-offset-[-4px]">
          {t.body}
        </RT.Content>
      ))}
    </RT.Root>
  );
}
