import type { Article, Objection, StoredPicture } from './goods';
import { seePicture } from './picture';
import type { ShopKind, World } from './world';

const DAY_MS = 86_400_000;

/** A listing with nothing in it, not yet kept. */
export const newArticle = <Own, Extra>(
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
  account: string,
  reference: string | null,
): Article<Extra> => ({
  id: world.newId(kind.look.article.slice(0, 2)),
  account,
  reference,
  stage: 'draft',
  title: '',
  text: '',
  tags: [],
  category: null,
  options: [],
  variants: [],
  pictures: [],
  createdAt: world.now(),
  changedAt: world.now(),
  foundFrom: world.now(),
  liveSince: null,
  liveUntil: null,
  extra: kind.newExtra(),
});

/** Writes a listing down, as changed now. */
export function keepArticle<Own, Extra>(
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
  article: Article<Extra>,
): Article<Extra> {
  const kept = { ...article, changedAt: world.now() };
  world.articles.put(kept.id, kept);
  kind.happened?.(kept, 'changed', world);
  return kept;
}

export function removeArticle<Own, Extra>(
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
  article: Article<Extra>,
): void {
  world.articles.drop(article.id);
  kind.happened?.(article, 'removed', world);
}

/** Shows a listing to buyers, or hides it; what stands against it otherwise. Being live is charged when it begins. */
export function setStage<Own, Extra>(
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
  article: Article<Extra>,
  stage: Article['stage'],
): Objection[] {
  if (article.stage === stage) return [];
  if (stage === 'draft') {
    keepArticle(world, kind, { ...article, stage });
    return [];
  }
  const objections = kind.objectionsToLive(article, world);
  if (objections.length > 0) return objections;
  goLive(world, kind, article);
  return [];
}

/** A time that was paid for is not paid again while it lasts. */
function goLive<Own, Extra>(world: World<Own, Extra>, kind: ShopKind<Own, Extra>, article: Article<Extra>): void {
  const { livePrice } = kind;
  const paid = livePrice === undefined || (article.liveUntil !== null && article.liveUntil > world.now());
  if (!paid) chargeLive(world, livePrice, article);
  keepArticle(world, kind, {
    ...article,
    stage: 'live',
    liveSince: article.liveSince ?? world.now(),
    liveUntil: paid ? article.liveUntil : world.now() + livePrice.days * DAY_MS,
  });
}

function chargeLive<Own, Extra>(
  world: World<Own, Extra>,
  { what, amountMinor }: NonNullable<ShopKind['livePrice']>,
  { id, account }: Article<Extra>,
): void {
  world.charges.put(world.newId('ch'), { account, article: id, what, amountMinor, at: world.now() });
}

/** Pays a live listing's next span, beginning where its last one ends. */
export function renewLive<Own, Extra>(
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
  article: Article<Extra>,
): Article<Extra> {
  const { livePrice } = kind;
  if (!livePrice || article.stage !== 'live') return article;
  chargeLive(world, livePrice, article);
  const from = Math.max(world.now(), article.liveUntil ?? 0);
  return keepArticle(world, kind, { ...article, liveUntil: from + livePrice.days * DAY_MS });
}

/** A listing as it stands now: one whose time has run out is a draft again. */
export function articleNow<Own, Extra>(
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
  id: string,
): Article<Extra> | undefined {
  const article = world.articles.get(id);
  if (article?.stage === 'live' && article.liveUntil !== null && article.liveUntil <= world.now())
    return keepArticle(world, kind, { ...article, stage: 'draft' });
  return article;
}

/** Takes a picture in; null for what is none. */
export async function storePicture<Own, Extra>(
  world: World<Own, Extra>,
  account: string,
  bytes: Buffer,
  verdict: StoredPicture['verdict'],
  { judgedAfterMs = 0, looksAtGround = false } = {},
): Promise<StoredPicture | null> {
  const seen = await seePicture(bytes, { looksAtGround });
  if (!seen) return null;
  const { type, widthPx, heightPx, onWhite } = seen;
  const id = world.newId('px');
  world.records.putFile(id, bytes);
  const judgedAt = world.now() + judgedAfterMs;
  return world.pictures.put(id, { id, account, type, widthPx, heightPx, onWhite, verdict, judgedAt, reason: null });
}
