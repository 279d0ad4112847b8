import { describe, expect, it } from 'vitest';
import { TypicaError } from '@/core/errors';
import { problemResponse } from './problem';

const read = async (response: Response) => (await response.json()) as Record<string, unknown>;

// RFC 9457, section 3: "application/problem+json"; section 3.1: `type` a URI reference, `status` the number of the HTTP status,
// `title` and `detail` strings; section 3.2: other members extend it and leave these as they are.
describe('problem details', () => {
  it('have the members and the media type of RFC 9457', async () => {
    const response = problemResponse(new TypicaError('not-found', 'product-unknown', 'There is no such product.'));
    expect(response.status).toBe(404);
    expect(response.headers.get('content-type')).toBe('application/problem+json');
    const body = await read(response);
    expect(URL.canParse(String(body.type))).toBe(true);
    expect(body).toMatchObject({ status: 404, detail: 'There is no such product.', code: 'product-unknown' });
    expect(typeof body.title).toBe('string');
  });

  it('are extended without a change to these members', async () => {
    const fields = { status: 200, title: 'Fine', type: 'about:blank', detail: '', code: 'ok', sku: 'TT-1' };
    const body = await read(problemResponse(new TypicaError('conflict', 'sku-taken', 'This SKU is taken.', fields)));
    expect(body).toMatchObject({ status: 409, detail: 'This SKU is taken.', code: 'sku-taken', sku: 'TT-1' });
  });

  it('say in whole seconds when to come back (RFC 9110, 10.2.3)', () => {
    const failure = new TypicaError('too-many', 'busy', 'Come back later.', { retryAfterMs: 1_001 });
    expect(problemResponse(failure).headers.get('retry-after')).toBe('2');
  });

  it('tell nothing of a failure of our own', async () => {
    const response = problemResponse(new Error('password at db:3306'));
    const text = JSON.stringify(await read(response));
    expect(response.status).toBe(500);
    expect(text).not.toContain('3306');
  });

  it('do not grow with what was sent', async () => {
    const fields = { told: 'x'.repeat(100_000), many: Array.from({ length: 5_000 }, (_, i) => i) };
    const response = problemResponse(new TypicaError('invalid', 'bad', 'y'.repeat(100_000), fields));
    expect((await response.text()).length).toBeLessThan(10_000);
  });
});
