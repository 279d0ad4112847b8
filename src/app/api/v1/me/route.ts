import { readBody } from '@/server/http/body';
import { clientOf } from '@/server/http/client';
import { PersonDto } from '@/server/http/dto/people';
import { json, noContent, route } from '@/server/http/route';
import { changePerson } from '@/server/people/settings';

export const GET = route('read', async ({ actor }) => json(actor));

/** Changes the name, the email or the password of who asks. */
export const PATCH = route('keys', async ({ ctx, actor, request }) => {
  await changePerson(ctx, actor, await readBody(request, PersonDto), clientOf(request));
  return noContent();
});
