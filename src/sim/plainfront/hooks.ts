import crypto from 'node:crypto';
import type { Plainfront, Product, Hook } from './shop';

/** How long a hook that is not answered is tried again, by the shop's clock. */
const PAUSES_MS = [0, 5_000, 30_000, 120_000];
const TIMEOUT_MS = 10_000;

export const newHookSecret = (): string => `whsec_${crypto.randomBytes(24).toString('base64')}`;

/** Headers of the Standard Webhooks specification: id, time in seconds, and HMAC-SHA-256 over `id.time.body`. */
function signed(hook: Hook, id: string, seconds: number, body: string): Record<string, string> {
  const key = Buffer.from(hook.secret.replace(/^whsec_/, ''), 'base64');
  const signature = crypto.createHmac('sha256', key).update(`${id}.${seconds}.${body}`).digest('base64');
  return {
    'content-type': 'application/json',
    'webhook-id': id,
    'webhook-timestamp': String(seconds),
    'webhook-signature': `v1,${signature}`,
  };
}

/** Tells everyone who asked what happened to a product. */
export function tell(product: Product, what: 'changed' | 'removed', world: Plainfront): void {
  const account = world.accounts.get(product.account)!;
  for (const hook of account.own.hooks)
    void deliver(hook, { type: `product.${what}`, product: product.id, storefront: account.id }, world);
}

async function deliver(hook: Hook, event: object, world: Plainfront): Promise<void> {
  const id = world.newId('ms');
  const body = JSON.stringify(event);
  for (const pause of PAUSES_MS) {
    await world.sleep(pause);
    try {
      const answer = await fetch(hook.address, {
        method: 'POST',
        body,
        headers: signed(hook, id, Math.floor(world.stamp() / 1000), body),
        signal: AbortSignal.timeout(TIMEOUT_MS),
        redirect: 'error',
      });
      await answer.body?.cancel();
      // Gone: nobody wants it there any more.
      if (answer.ok || answer.status === 410) return;
    } catch {
      // Tried again after a while.
    }
  }
}
