import { Check } from '@/ui/Check';
import { setSingleKeys, useSingleKeys } from '@/ui/keys';
import { Sheet } from '@/ui/Sheet';
import { KEY_LIST } from './keys';

/** The list of keys, and whether those without Ctrl are on. */
export function KeysSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const singles = useSingleKeys();
  return (
    <Sheet open={open} onClose={onClose} title="Keyboard shortcuts">
      <dl className="grid grid-cols-[150px_1fr] gap-x-3 gap-y-1.5 text-small">
        {KEY_LIST.map(([keys, does]) => (
          <div key={keys} className="contents">
            <dt className="font-mono">{keys}</dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
      <div className="mt-4 border-t border-hairline pt-3">
        <Check on={singles} onChange={setSingleKeys} className="text-small">
          Use keys without Ctrl
        </Check>
        <p className="mt-1 text-tiny text-muted">
          Turn them off if a speech program or a slip of the hand sets them off. Keys with Ctrl stay. This is kept in
          this browser.
        </p>
      </div>
    </Sheet>
  );
}
