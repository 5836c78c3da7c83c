import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import { ApiError } from "../api/client";
import { commands, hrefs } from "../api/commands";
import { refresh } from "../api/options";
import { useSaveSettings, useSettings } from "../lib/units";
import { Button } from "../ui/Button";
import { TextField } from "../ui/Field";
import { Fault, Sheet } from "../ui/Sheet";
import { Waits } from "../ui/Waits";

/** The firm as it stands on reports: name, address, its own logo. */
export function Firm() {
  const { data: found, isPending } = useSettings();
  const save = useSaveSettings();
  const [typed, setTyped] = useState<{ firm: string; address: string } | null>(null);
  const [shown, setShown] = useState(0);
  const client = useQueryClient();
  const there = found?.logo ?? false;
  const input = useRef<HTMLInputElement>(null);
  const logo = useMutation({
    mutationFn: (file: File | null) => (file ? commands.keepLogo(file) : commands.dropLogo()),
    onSuccess: () => {
      refresh(client, ["settings"]);
      setShown((n) => n + 1);
    },
  });
  const key = useMutation({ mutationFn: commands.makeKey, onSuccess: () => refresh(client, ["settings"]) });
  if (!found) return isPending && <Waits />;
  const { settings } = found;
  const now = typed ?? { firm: settings.firm, address: settings.address };
  const fault = logo.error instanceof ApiError ? logo.error.problem : null;
  return (
    <Sheet title="On reports">
      <div className="grid gap-3">
        <TextField label="Firm" value={now.firm} onChange={(v) => setTyped({ ...now, firm: v })} />
        <TextField label="Address" long value={now.address} onChange={(v) => setTyped({ ...now, address: v })} />
        <div className="flex flex-wrap items-center gap-3">
          {there && <img src={`${hrefs.logo}?${shown}`} alt="The firm's logo" className="max-h-16 max-w-48" />}
          <Button onClick={() => input.current?.click()}>{there ? "Another logo" : "Add a logo"}</Button>
          {there && <Button onClick={() => logo.mutate(null)}>Remove the logo</Button>}
          <Button kind="solid" className="ml-auto" disabled={typed === null} onClick={() => save.mutate({ ...settings, ...now }, { onSuccess: () => setTyped(null) })}>
            Save
          </Button>
        </div>
        <input
          ref={input}
          type="file"
          accept="image/png,image/jpeg,image/webp"
          aria-label="Logo file"
          hidden
          onChange={(e) => {
            const file = e.target.files?.[0];
            if (file) logo.mutate(file);
            e.target.value = "";
          }}
        />
        {found.key ? (
          <p>
            What is sealed here is signed with the firm&apos;s own key <span className="figure text-note">{found.key}</span>.
          </p>
        ) : (
          <div>
            <Button onClick={() => key.mutate()}>Make a key to sign with</Button>
            <p className="mt-1 text-soft">Sealed records are then signed with it. Hand its fingerprint to whoever checks them.</p>
          </div>
        )}
        {fault && <Fault title={fault.title} detail={fault.detail} />}
      </div>
    </Sheet>
  );
}
