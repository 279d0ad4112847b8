/** A small client of Typica's HTTP API, as a seller's script would have one: used by the demo and by tests. */
export class ApiClient {
  constructor(
    readonly origin: string,
    private readonly headers: Record<string, string> = {},
  ) {}

  static async signIn(origin: string, email: string, password: string): Promise<ApiClient> {
    const answer = await fetch(`${origin}/api/v1/sessions`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ email, password }),
    });
    if (!answer.ok) throw new Error(`sign-in: ${await answer.text()}`);
    return new ApiClient(origin, { cookie: answer.headers.get('set-cookie')!.split(';')[0]! });
  }

  request(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Response> {
    const raw = body instanceof Uint8Array;
    return fetch(`${this.origin}/api/v1${path}`, {
      method,
      headers: {
        ...this.headers,
        ...(body === undefined || raw ? {} : { 'content-type': 'application/json' }),
        ...headers,
      },
      body: body === undefined ? undefined : raw ? new Uint8Array(body) : JSON.stringify(body),
      redirect: 'manual',
    });
  }

  /** The answer's JSON; an error answer is thrown with its detail. */
  async call<T>(method: string, path: string, body?: unknown, headers?: Record<string, string>): Promise<T> {
    const answer = await this.request(method, path, body, headers);
    const text = await answer.text();
    if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${text}`);
    return (text ? JSON.parse(text) : null) as T;
  }

  get<T>(path: string): Promise<T> {
    return this.call<T>('GET', path);
  }

  post<T>(path: string, body: unknown = {}): Promise<T> {
    return this.call<T>('POST', path, body);
  }

  patch<T>(productId: string, revision: number, operations: unknown[]): Promise<T & { revision: number }> {
    return this.call('PATCH', `/products/${productId}`, operations, { 'if-match': `"${revision}"` });
  }

  /** Asks again until `ready` gives something; a minute at most. */
  async until<T>(ask: () => Promise<T | null>, what: string, seconds = 60): Promise<T> {
    const end = Date.now() + seconds * 1000;
    for (;;) {
      const found = await ask();
      if (found !== null) return found;
      if (Date.now() > end) throw new Error(`${what} did not come within ${seconds} s`);
      await new Promise((done) => setTimeout(done, 150));
    }
  }

  /** Uploads a file and waits until it has been looked at. */
  async upload(
    bytes: Uint8Array,
    name: string,
  ): Promise<{
    id: string;
    state: string;
    facts: { widthPx: number; heightPx: number } | null;
    refusal: { message: string } | null;
  }> {
    const { id } = await this.call<{ id: string }>('POST', `/artwork?name=${encodeURIComponent(name)}`, bytes);
    return this.until(async () => {
      const artwork = await this.get<Awaited<ReturnType<ApiClient['upload']>>>(`/artwork/${id}`);
      return artwork.state === 'ingesting' ? null : artwork;
    }, `artwork ${name}`);
  }

  /** Waits for a job's end and gives it. */
  job(id: string, seconds = 90): Promise<{ state: string; error: { message: string } | null; result: unknown }> {
    return this.until(
      async () => {
        const job = await this.get<{ state: string; error: { message: string } | null; result: unknown }>(
          `/jobs/${id}`,
        );
        return ['done', 'failed', 'cancelled'].includes(job.state) ? job : null;
      },
      `job ${id}`,
      seconds,
    );
  }

  /** Goes through a shop's consent page as its owner would, saying yes, and gives the store. */
  async connect(channel: string, region?: string): Promise<{ id: string; name: string; shopUrl: string }> {
    const { authorizeUrl } = await this.post<{ authorizeUrl: string }>('/stores/connect', {
      channel,
      ...(region ? { region } : {}),
    });
    const ask = new URL(authorizeUrl);
    const form = new URLSearchParams(ask.search);
    form.set('answer', 'allow');
    const consent = await fetch(`${ask.origin}/consent`, { method: 'POST', body: form, redirect: 'manual' });
    const back = new URL(consent.headers.get('location') ?? '');
    return this.get(`/stores/callback${back.search}`);
  }
}
