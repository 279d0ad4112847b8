import { json, route } from '@/server/http/route';

/** Kinds of shop: what each demands and takes, and how one is connected. */
export const GET = route('read', async ({ ctx }) =>
  json({
    channels: [...ctx.channels.values()].map(({ about, connecting }) => ({
      ...about,
      connecting:
        connecting.kind === 'keys'
          ? { kind: connecting.kind, fields: connecting.fields, page: connecting.page }
          : { kind: connecting.kind },
    })),
  }),
);
