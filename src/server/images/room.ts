/**
 * Memory for large pictures in one process. Whoever draws says how much it will hold at its highest and waits until there is room for it;
 * what is larger than all of it is drawn alone. In the order of asking, so that a poster is not put off for ever by mugs.
 */
const ROOM_BYTES = 900e6;

let free = ROOM_BYTES;
const waiting: { bytes: number; begin: () => void }[] = [];

function letIn(): void {
  while (waiting.length > 0 && (waiting[0]!.bytes <= free || free === ROOM_BYTES)) {
    const next = waiting.shift()!;
    free -= next.bytes;
    next.begin();
  }
}

/** Does work that holds about `bytes` when there is room for it. It must not ask for room again inside: it would wait for itself. */
export async function withRoom<T>(bytes: number, work: () => Promise<T>): Promise<T> {
  await new Promise<void>((begin) => {
    waiting.push({ bytes, begin });
    letIn();
  });
  try {
    return await work();
  } finally {
    free += bytes;
    letIn();
  }
}
