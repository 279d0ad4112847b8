import { json, jsonObject, NO_CONTENT, type Answer, type Exchange } from '../engine/exchange';
import type { Objection } from '../engine/goods';
import { keepArticle, newArticle, removeArticle, setStage, storePicture } from '../engine/keeping';
import type { Limit } from '../engine/limit';
import { once } from '../engine/once';
import { admit, forbidden, type Say } from '../engine/tokens';
import type { ShopKind } from '../engine/world';
import { objectionsToPiece, objectionsToShowing } from './rules';
import { SHELVES } from './shelves';
import type { Extra, Loopstall, Own, Piece, Stall } from './shop';
import { changed, shown } from './wire';

type Kind = ShopKind<Own, Extra>;

interface Asked {
  readonly world: Loopstall;
  readonly kind: Kind;
  readonly stall: Stall;
  readonly region: string;
  readonly method: string;
  readonly path: string;
  readonly query: URLSearchParams;
  readonly onceKey: string;
  readonly body: Buffer;
  readonly fields: Record<string, unknown>;
  readonly judgeMs: number;
}

/** What the shop allows of its programs. */
export interface Ways {
  readonly limit: Limit;
  /** A picture is looked at so long after it was taken. */
  readonly judgeMs: number;
}

/** A key is forgotten after this time, and what comes with it then is made anew. */
const KEY_MS = 3_600_000;
const PAGE = 50;

const say: Say = (reason, text, more) => ({ ok: false, reason, text, ...more });
const no = (status: number, reason: string, text: string): Answer => json(status, say(reason, text));
const refuse = (objections: readonly Objection[]): Answer =>
  json(422, say('objections', objections[0]!.message, { objections }));

/** Loopstall's API, a region at a time: a token of one region is none in another. */
export async function serve(
  { request, url }: Exchange,
  body: Buffer,
  world: Loopstall,
  kind: Kind,
  { limit, judgeMs }: Ways,
): Promise<Answer | null> {
  const [, region, path] = /^\/api\/([a-z]{2})(\/.*)$/.exec(url.pathname) ?? [];
  if (!region || !path) return null;
  const admitted = admit(request, world, limit, say);
  if ('status' in admitted) return admitted;
  const { token } = admitted;
  if (token.region !== region) return no(403, 'region', `This token is for the region ${token.region}, not ${region}.`);
  const method = request.method ?? 'GET';
  const denied = forbidden(world, token, method === 'GET' ? 'look' : 'stock', say);
  if (denied) return denied;
  const fields = path === '/shots' ? {} : jsonObject(body);
  if (!fields) return no(400, 'json', 'A JSON object, please.');
  const asked: Asked = {
    world,
    kind,
    stall: world.accounts.get(token.account)!,
    region,
    method,
    path,
    query: url.searchParams,
    onceKey: String(request.headers['once-key'] ?? ''),
    body,
    fields,
    judgeMs,
  };
  return serveStall(asked) ?? (await takeShot(asked)) ?? servePieces(asked);
}

function serveStall({ world, stall, region, path }: Asked): Answer | null {
  if (path === '/stall') {
    const page = `${world.url}/stalls/${stall.slug}`;
    return json(200, { ok: true, stall: stall.id, name: stall.name, currency: stall.currency, region, page });
  }
  if (path === '/warehouses') return json(200, { ok: true, warehouses: stall.own.warehouses });
  return path === '/shelves' ? json(200, { ok: true, shelves: SHELVES }) : null;
}

/** Takes a picture, to be judged later. */
async function takeShot({ world, stall, method, path, body, onceKey, judgeMs }: Asked): Promise<Answer | null> {
  if (path !== '/shots' || method !== 'POST') return null;
  const seen = await storePicture(world, stall.id, body, 'judging', { judgedAfterMs: judgeMs });
  if (!seen) return no(422, 'shot', 'This is no picture.');
  if (seen.widthPx !== seen.heightPx || seen.widthPx < 600)
    return no(422, 'shot', `Square, 600 px or more; this is ${seen.widthPx} x ${seen.heightPx}.`);
  if (world.faults.take('refusePictures')) world.records.table<true>('doomed').put(seen.id, true);
  return once(world, stall.id, onceKey, KEY_MS, () => json(201, { ok: true, shot: seen.id }));
}

/** Judges the pictures whose time has come; what shows a refused one goes off. */
export function judge(world: Loopstall, kind: Kind): void {
  const doomed = world.records.table<true>('doomed');
  for (const shot of world.pictures.all()) {
    if (shot.verdict !== 'judging' || shot.judgedAt > world.now()) continue;
    const refused = doomed.get(shot.id) === true;
    doomed.drop(shot.id);
    const reason = refused ? 'It shows a mark that is not yours.' : null;
    world.pictures.put(shot.id, { ...shot, verdict: refused ? 'refused' : 'taken', reason });
    if (!refused) continue;
    for (const piece of world.articles.all())
      if (piece.stage === 'live' && piece.pictures.some(({ id }) => id === shot.id))
        setStage(world, kind, piece, 'draft');
  }
}

function servePieces(asked: Asked): Answer | null {
  const { world, kind, stall, region, method, path, fields } = asked;
  if (path === '/pieces')
    return method === 'POST' ? once(world, stall.id, asked.onceKey, KEY_MS, () => make(asked)) : list(asked);
  const [, id, act] = /^\/pieces\/([a-z0-9-]+)(\/on|\/off)?$/.exec(path) ?? [];
  const piece = id ? world.articles.get(id) : undefined;
  if (piece?.account !== stall.id) return no(404, 'missing', 'There is no such piece on this stall.');
  if (act) {
    const objections = setStage(world, kind, piece, act === '/on' ? 'live' : 'draft');
    return objections.length > 0 ? refuse(objections) : json(200, shown(world.articles.get(piece.id)!, region, world));
  }
  if (method === 'GET') return json(200, shown(piece, region, world));
  if (method === 'DELETE') {
    removeArticle(world, kind, piece);
    return NO_CONTENT;
  }
  if (method !== 'PUT') return no(405, 'method', 'GET, PUT or DELETE.');
  return keep(asked, changed(piece, fields), 200);
}

function make(asked: Asked): Answer {
  const { world, kind, stall, fields } = asked;
  const mark = typeof fields.seller_ref === 'string' ? fields.seller_ref : null;
  return keep(asked, changed(newArticle(world, kind, stall.id, mark), fields), 201);
}

function keep({ world, kind, region }: Asked, next: Piece, status: number): Answer {
  const objections = next.stage === 'live' ? objectionsToShowing(next, world) : objectionsToPiece(next, world);
  return objections.length > 0
    ? refuse(objections)
    : json(status, shown(keepArticle(world, kind, next), region, world));
}

/** Pieces by the seller's mark, or those that moved since a moment, page by page in the order in which they moved. */
function list({ world, stall, region, query }: Asked): Answer {
  const mark = query.get('seller_ref');
  const since = Number(query.get('moved_since') ?? 0);
  const [afterAt = '', afterId = ''] = (query.get('after') ?? '0.').split('.');
  const found = world.articles
    .all()
    .filter(
      (piece) =>
        piece.account === stall.id &&
        (mark === null || piece.reference === mark) &&
        piece.changedAt >= since &&
        (piece.changedAt > Number(afterAt) || (piece.changedAt === Number(afterAt) && piece.id > afterId)),
    )
    .sort((a, b) => a.changedAt - b.changedAt || (a.id < b.id ? -1 : 1));
  const pieces = found.slice(0, PAGE);
  const last = pieces.at(-1);
  return json(200, {
    ok: true,
    pieces: pieces.map((piece) => shown(piece, region, world)),
    after: last && found.length > PAGE ? `${last.changedAt}.${last.id}` : null,
  });
}
