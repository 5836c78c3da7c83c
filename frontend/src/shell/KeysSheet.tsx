import { Modal } from "../ui/Modal";
import { KEYS } from "./keys";

/** The list of keys. */
export function KeysSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Modal open={open} onClose={onClose} title="Keys">
      <dl className="grid grid-cols-[auto_1fr] gap-x-5 gap-y-2">
        {KEYS.map((k) => (
          <div key={k.keys} className="contents">
            <dt className="figure font-bold whitespace-nowrap">{k.keys}</dt>
            <dd>{k.does}</dd>
          </div>
        ))}
      </dl>
    </Modal>
  );
}
