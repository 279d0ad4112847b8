import type { ComparedSection } from '@/core/shelf/compare';
import { MAX_COMPARED } from '@/core/catalog/limits';
import { isTypicaError } from '@/core/errors';
import { loadShots } from '@/server/catalog/blanks';
import { compareOffers, type Compared } from '@/server/catalog/compare';
import type { Context } from '@/server/context';
import type { Actor } from '@/server/people/people';
import type { PicturedBlank } from '../Blank/BlankPicture';
import { picturedBlank } from '../Blank/view';

export interface CompareData {
  /** Null where nothing can be compared; `problem` says why. */
  readonly comparison: {
    readonly size: string | null;
    readonly sections: readonly ComparedSection[];
    readonly colors: Compared['colors'];
    readonly blanks: readonly (Compared['blanks'][number] & { readonly pictured: PicturedBlank })[];
    readonly destinations: readonly string[];
    readonly items: number;
    readonly currency: string;
  } | null;
  readonly problem: string | null;
  readonly country: string;
}

/** The blanks of the address side by side. */
export async function loadCompare(ctx: Context, actor: Actor, params: URLSearchParams): Promise<CompareData> {
  const ids = params.getAll('id').slice(0, MAX_COMPARED);
  try {
    const { offers, ...compared } = await compareOffers(
      ctx,
      actor,
      ids,
      params.getAll('to'),
      Number(params.get('items')) || 1,
    );
    const shots = await loadShots(ctx, ids, actor.workspaceId);
    const blanks = offers.map(({ blank }, i) => ({
      ...compared.blanks[i]!,
      pictured: picturedBlank(blank, shots.find((shot) => shot.blankId === blank.id)?.contentHash.slice(0, 16) ?? null),
    }));
    return { comparison: { ...compared, blanks }, problem: null, country: actor.country };
  } catch (error) {
    if (!isTypicaError(error)) throw error;
    return { comparison: null, problem: error.message, country: actor.country };
  }
}
