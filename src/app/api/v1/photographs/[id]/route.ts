import { noContent, route } from '@/server/http/route';
import { deletePhotograph } from '@/server/photographs/photographs';

/** Deletes a photograph that no shot and no product shows. */
export const DELETE = route<{ id: string }>('design', async ({ ctx, actor, params }) => {
  await deletePhotograph(ctx, actor, params.id);
  return noContent();
});
