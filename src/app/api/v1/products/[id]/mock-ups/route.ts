import { chosenColors } from '@/core/document/chosen';
import { usefulShots } from '@/core/listing/pictures';
import { json, route } from '@/server/http/route';
import { loadDesign } from '@/server/products/bundle';

/** Which mock-ups there are: shots of what is printed, and chosen colors. */
export const GET = route<{ id: string }>('read', async ({ ctx, actor, params }) => {
  const { product, blank, shots } = await loadDesign(ctx, actor.workspaceId, params.id);
  const address = (shotId: string, color: string | null) =>
    `/api/v1/products/${product.id}/mock-ups/${shotId}?${color ? `color=${color}&` : ''}size=full`;
  const mockUps = usefulShots(product.document, blank, shots).flatMap((shot) =>
    chosenColors(product.document, blank).map((color) => ({
      shotId: shot.id,
      shot: shot.document.name,
      color,
      href: address(shot.id, color),
    })),
  );
  return json({ revision: product.revision, mockUps });
});
