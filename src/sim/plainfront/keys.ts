import crypto from 'node:crypto';
import { page, readBody, type Answer, type Exchange } from '../engine/exchange';
import { esc, frame, problemList } from '../engine/pages/frame';
import { giveToken, tokensOf, type Token } from '../engine/tokens';
import type { ShopKind, World } from '../engine/world';
import { SCOPES, type Key, type Plainfront } from './shop';

const DAY_MS = 86_400_000;

export const keysOf = (world: Plainfront) => world.records.table<Key>('keys');

/** The owner's page of keys for programs: what each may do, for which storefronts, until when. */
export async function serveKeys({ request, url }: Exchange, world: Plainfront, kind: Dressed): Promise<Answer | null> {
  if (url.pathname !== '/desk/keys') return null;
  if (request.method !== 'POST') return page(keysPage(world, kind, null, []));
  const form = new URLSearchParams((await readBody(request)).toString('utf8'));
  const ending = form.get('end');
  if (ending !== null) {
    endKey(world, ending);
    return page(keysPage(world, kind, null, []));
  }
  const scopes = SCOPES.filter((scope) => form.getAll('scope').includes(scope));
  const accounts = form.getAll('storefront').filter((id) => world.accounts.get(id));
  const days = Number(form.get('days') ?? 90);
  if (!Number.isInteger(days) || days < 0 || days > 400)
    return page(keysPage(world, kind, null, ['A key holds from 0 to 400 days.']), 422);
  return page(keysPage(world, kind, makeKey(world, { name: form.get('name') ?? '', scopes, accounts, days }), []));
}

type Dressed = Pick<ShopKind, 'name' | 'look'>;

/** Makes a key and gives its text, which is shown once. */
export function makeKey(
  world: Plainfront,
  wish: { name: string; scopes: readonly string[]; accounts: readonly string[]; days: number },
): string {
  const until = world.now() + wish.days * DAY_MS;
  const id = crypto.randomUUID();
  const token: Token = {
    account: wish.accounts[0] ?? '',
    kind: 'access',
    until,
    grant: id,
    scopes: wish.scopes,
    region: null,
  };
  keysOf(world).put(id, { id, name: wish.name, scopes: wish.scopes, until, accounts: wish.accounts });
  const text = giveToken(world as World, token);
  world.records.table<string>('keyTexts').put(id, text);
  return text;
}

export function endKey(world: Plainfront, id: string): void {
  tokensOf(world as World).drop(world.records.table<string>('keyTexts').get(id) ?? '');
  world.records.table<string>('keyTexts').drop(id);
  keysOf(world).drop(id);
}

function keysPage(world: Plainfront, kind: Dressed, made: string | null, problems: readonly string[]): string {
  const box = (name: string, value: string, words: string) =>
    `<label><input type="checkbox" style="width:auto" name="${name}" value="${esc(value)}" checked> ${esc(words)}</label>`;
  const rows = keysOf(world)
    .all()
    .map(
      ({ id, name, scopes, until, accounts }) =>
        `<tr><td>${esc(name)}</td><td>${scopes.join(', ')}</td><td>${accounts.map((one) => esc(world.accounts.get(one)?.name ?? '')).join(', ')}</td><td>${new Date(until).toISOString().slice(0, 10)}</td><td><form method="post"><button class="plain" name="end" value="${id}">End</button></form></td></tr>`,
    );
  return frame(
    kind,
    'Keys for programs',
    `<h1>Keys for programs</h1>${problemList(problems)}${made ? `<p class="note">Your key, shown this once: <code id="key">${made}</code></p>` : ''}<table>${rows.join('')}</table><h2>A new key</h2><form method="post"><label for="name">Name</label><input id="name" name="name" value="Typica"><h3>May</h3>${SCOPES.map((scope) => box('scope', scope, scope)).join('')}<h3>For</h3>${world.accounts
      .all()
      .map(({ id, name, currency }) => box('storefront', id, `${name}, ${currency}`))
      .join(
        '',
      )}<label for="days">Days</label><input id="days" name="days" value="90"><button>Make a key</button></form>`,
  );
}
