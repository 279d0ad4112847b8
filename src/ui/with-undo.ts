import { toast } from './toast';

/** Says what was done, with the way back beside it. */
export function saidWithUndo(says: string, undo: () => Promise<unknown>): void {
  toast(says, {
    action: { label: 'Undo', onClick: () => void undo().catch((error: Error) => toast.error(error.message)) },
  });
}
