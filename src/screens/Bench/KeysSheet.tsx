import { Sheet } from '@/ui/Sheet';
import { KEY_LIST } from './keys';

/** The list of keys. */
export function KeysSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Sheet open={open} onClose={onClose} title="Keys">
      <dl className="grid grid-cols-[120px_1fr] gap-y-1.5 text-small">
        {KEY_LIST.map(([keys, does]) => (
          <div key={keys} className="contents">
            <dt className="font-mono">{keys}</dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </Sheet>
  );
}
