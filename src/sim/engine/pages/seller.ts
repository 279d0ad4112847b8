import { goTo, page, readBody, readForm, type Answer, type Exchange } from '../exchange';
import type { Article } from '../goods';
import { keepArticle, newArticle, removeArticle, setStage, storePicture } from '../keeping';
import type { ShopKind, World } from '../world';
import { draftOf, editPage, listPage } from './seller-form';

const EDIT = /^\/desk\/(new|[a-z]{2}-[a-z0-9]+)(\/[a-z]+)?$/;

/** The seller's own pages, by which a listing is changed without any program; null for another address. */
export async function serveSeller<Own, Extra>(
  exchange: Exchange,
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
): Promise<Answer | null> {
  const { request, url } = exchange;
  if (url.pathname === '/desk') return page(listPage(world, kind));
  const match = EDIT.exec(url.pathname);
  if (!match) return null;
  const [, id, act] = match;
  if (id === 'new') return request.method === 'POST' ? addOne(exchange, world, kind) : null;
  const article = world.articles.get(id!);
  if (!article) return null;
  if (request.method !== 'POST') return act ? null : page(editPage(article, world, kind, []));
  if (act === '/pictures') return takePicture(exchange, article, world, kind);
  const form = await readForm(request);
  const back = goTo(`/desk/${article.id}`);
  switch (act) {
    case undefined:
      return save(article, form, world, kind);
    case '/copy': {
      const copy = newArticle(world, kind, article.account, null);
      keepArticle(world, kind, { ...structuredClone(article), ...idsOf(copy), title: `${article.title} (copy)` });
      return goTo(`/desk/${copy.id}`);
    }
    case '/live': {
      const objections = setStage(world, kind, article, 'live');
      return objections.length === 0
        ? back
        : page(
            editPage(
              article,
              world,
              kind,
              objections.map(({ message }) => message),
            ),
            422,
          );
    }
    case '/draft':
      setStage(world, kind, article, 'draft');
      return back;
    case '/delete':
      removeArticle(world, kind, article);
      return goTo('/desk');
    default:
      return null;
  }
}

/** What a copy has of its own. */
const idsOf = <Extra>({ id, reference, stage, createdAt, foundFrom, liveSince, liveUntil }: Article<Extra>) => ({
  id,
  reference,
  stage,
  createdAt,
  foundFrom,
  liveSince,
  liveUntil,
});

function save<Own, Extra>(
  article: Article<Extra>,
  form: Readonly<Record<string, string>>,
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
): Answer {
  const { draft, problems } = draftOf(article, form);
  const objections = article.stage === 'live' ? kind.objectionsToLive(draft, world) : kind.objections(draft, world);
  const all = [...problems, ...objections.map(({ message }) => message)];
  if (all.length > 0) return page(editPage(draft, world, kind, all), 422);
  keepArticle(world, kind, draft);
  return goTo(`/desk/${article.id}`);
}

/** A listing that no program made. */
async function addOne<Own, Extra>(
  { request }: Exchange,
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
): Promise<Answer> {
  const { account = '' } = await readForm(request);
  const article = newArticle(world, kind, world.accounts.get(account)?.id ?? world.accounts.all()[0]!.id, null);
  article.title = `My own ${kind.look.article}`;
  article.variants = [
    {
      sku: `OWN-${article.id.slice(-4).toUpperCase()}`,
      picks: [],
      priceMinor: 1000,
      beforeMinor: null,
      stock: 5,
      picture: null,
      gtin: null,
      grams: null,
    },
  ];
  keepArticle(world, kind, article);
  return goTo(`/desk/${article.id}`);
}

/** The page sends a file as it is; `?instead=` names the picture whose place it takes. */
async function takePicture<Own, Extra>(
  { request, url }: Exchange,
  article: Article<Extra>,
  world: World<Own, Extra>,
  kind: ShopKind<Own, Extra>,
): Promise<Answer> {
  const stored = await storePicture(world, article.account, await readBody(request), 'taken', kind);
  if (!stored) return { status: 422, body: 'This file is no picture.', type: 'text/plain' };
  const picture = { id: stored.id, caption: '' };
  const instead = url.searchParams.get('instead');
  const pictures = article.pictures.some(({ id }) => id === instead)
    ? article.pictures.map((one) => (one.id === instead ? { ...picture, caption: one.caption } : one))
    : [...article.pictures, picture];
  keepArticle(world, kind, { ...article, pictures });
  return { status: 204 };
}
