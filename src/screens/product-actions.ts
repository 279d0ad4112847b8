import { toast } from '@/ui/toast';
import { call } from '@/ui/api';
import { saidWithUndo } from '@/ui/with-undo';

const failed = (error: Error) => void toast.error(error.message);

/** Takes a product out of the range, with the way back beside the message. */
export async function archive({ id, title }: { id: string; title: string }, then: () => void): Promise<void> {
  await call('POST', `/products/${id}/archive`).then(() => {
    saidWithUndo(`${title} was archived.`, () => restore({ id, title }, then));
    then();
  }, failed);
}

/** Deletes a product; for 30 days it can be brought back. */
export async function remove({ id, title }: { id: string; title: string }, then: () => void): Promise<void> {
  await call('DELETE', `/products/${id}`).then(() => {
    saidWithUndo(`${title} was deleted.`, () => restore({ id, title }, then));
    then();
  }, failed);
}

/** Brings an archived or deleted product back. */
export async function restore({ id, title }: { id: string; title: string }, then: () => void): Promise<void> {
  await call('POST', `/products/${id}/restore`).then(() => {
    toast(`${title} is in the range again.`);
    then();
  }, failed);
}

/** Makes the same product once more. `then` is told its id. */
export async function duplicate({ id }: { id: string }, then: (madeId: string) => void): Promise<void> {
  await call<{ id: string; title: string }>('POST', `/products/${id}/copies`, {}).then((made) => {
    toast(`${made.title} was made. This is the copy.`);
    then(made.id);
  }, failed);
}
