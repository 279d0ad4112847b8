import type { IncomingMessage } from 'node:http';

export interface Refusal {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
  readonly code: string;
}

const refusal = (status: number, code: string, title: string, detail: string): Refusal => ({
  type: `urn:typica:problem:${code}`,
  title,
  status,
  detail,
  code,
});

const METHODS: ReadonlySet<string> = new Set(['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS']);
const MAX_ADDRESS = 8192;

/** Whether a header in which a browser tells the framework what it shows is what the framework writes there. */
function isStateTree(header: string): boolean {
  try {
    const tree: unknown = JSON.parse(decodeURIComponent(header));
    return isSegmentTree(tree, 0);
  } catch {
    return false;
  }
}

const MAX_SEGMENTS = 20;

/** A segment and, by slot, what is below it: `[segment, { children: [...] }, …]`. */
function isSegmentTree(tree: unknown, depth: number): boolean {
  if (!Array.isArray(tree) || depth > MAX_SEGMENTS) return false;
  const [segment, slots] = tree as unknown[];
  if (
    typeof segment !== 'string' &&
    !(
      Array.isArray(segment) &&
      segment.every((part) => typeof part === 'string' || part === null || Array.isArray(part))
    )
  )
    return false;
  if (typeof slots !== 'object' || slots === null || Array.isArray(slots)) return false;
  return Object.values(slots).every((below) => isSegmentTree(below, depth + 1));
}

function isReadable(address: string): boolean {
  try {
    decodeURIComponent(address.split('?', 1)[0]!);
    return true;
  } catch {
    return false;
  }
}

/** Why a request is not handed to the framework, which would fail on it; null for all others. */
export function refusalOf({
  method = '',
  url = '',
  headers,
}: Pick<IncomingMessage, 'method' | 'url' | 'headers'>): Refusal | null {
  if (!METHODS.has(method))
    return refusal(
      405,
      'method-unknown',
      'Not allowed',
      'This method is not used here; see the list of routes in docs/api.md.',
    );
  if (url.length > MAX_ADDRESS)
    return refusal(414, 'address-too-long', 'Too long', `The address is longer than ${MAX_ADDRESS} characters.`);
  if (!url.startsWith('/') || !isReadable(url))
    return refusal(
      400,
      'address-unreadable',
      'Not readable',
      'The address holds a % that stands for no letter; write %25 for the sign itself.',
    );
  const tree = headers['next-router-state-tree'];
  if (tree !== undefined && (typeof tree !== 'string' || !isStateTree(tree)))
    return refusal(
      400,
      'state-unreadable',
      'Not readable',
      'The header next-router-state-tree is not what our pages send. Load the page again.',
    );
  return null;
}
