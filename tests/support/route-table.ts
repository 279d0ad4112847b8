import fs from 'node:fs';
import path from 'node:path';

const root = path.resolve(import.meta.dirname, '../..');
const api = path.join(root, 'src/app/api/v1');

/** One handler of the API, as its file says. */
export interface RouteHandler {
  readonly method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  /** With `[id]` places: `/products/[id]`. */
  readonly path: string;
  /** Names that it reads from the query. */
  readonly queryNames: readonly string[];
  /** The class of its body, where it has one that is checked by class-validator. */
  readonly dto: string | null;
  /** What else its body is. */
  readonly body: 'patch' | 'json' | 'csv' | 'file' | null;
}

const BODIES: readonly (readonly [RegExp, RouteHandler['body']])[] = [
  [/checkPatch\(/, 'patch'],
  [/readJson\(/, 'json'],
  [/csvBytes\(|readRates\(|sheetRoute\(/, 'csv'],
  [/uploadArtwork\(|uploadPriceList\(/, 'file'],
];

/** Every handler of the API, from the files themselves: a new route is in all that walks this table. */
export function routeTable(): RouteHandler[] {
  return fs
    .readdirSync(api, { recursive: true, encoding: 'utf8' })
    .filter((file) => file.endsWith('route.ts'))
    .sort()
    .flatMap((file) => {
      const text = fs.readFileSync(path.join(api, file), 'utf8');
      const parts = text.split(/^export const (?=(?:GET|POST|PUT|PATCH|DELETE)\b)/m).slice(1);
      const shared = [...text.matchAll(/query\.(?:get|getAll|has)\('(\w+)'\)/g)].map(([, name]) => name!);
      return parts.map((part): RouteHandler => {
        const method = /^\w+/.exec(part)![0] as RouteHandler['method'];
        return {
          method,
          path: `/${path.dirname(file)}`,
          queryNames: [...new Set(shared)],
          dto: /readBody\(\s*request,\s*(\w+)/.exec(part)?.[1] ?? null,
          body: method === 'GET' ? null : (BODIES.find(([pattern]) => pattern.test(part))?.[1] ?? null),
        };
      });
    });
}
