import { TypicaError } from '@/core/errors';

/** What may be done in a workspace. A session may do all of it; a token what its maker chose. Names that roles use too. */
export const SCOPES = ['read', 'design', 'price', 'send', 'money', 'keys'] as const;
export type Scope = (typeof SCOPES)[number];

export const ALL_SCOPES: ReadonlySet<Scope> = new Set(SCOPES);

const SAYS: { readonly [scope in Scope]: string } = {
  read: 'read',
  design: 'change designs, artwork and pictures',
  price: 'change prices',
  send: 'send listings and run jobs',
  money: 'change rates, taxes and price lists',
  keys: 'connect stores and manage tokens',
};

/** Throws `scope-missing` when whoever asks may not do this. */
export function need(holder: { readonly scopes: ReadonlySet<Scope> }, scope: Scope): void {
  if (holder.scopes.has(scope)) return;
  throw new TypicaError(
    'forbidden',
    'scope-missing',
    `This token may not ${SAYS[scope]}; it lacks the scope “${scope}”. Make one that has it under Personal tokens.`,
    { scope },
  );
}

/** Scopes of a stored list; what is no scope (any more) is left out. */
export const readScopes = (stored: string): ReadonlySet<Scope> =>
  new Set(SCOPES.filter((scope) => stored.split(',').includes(scope)));
