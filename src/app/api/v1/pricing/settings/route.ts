import type { MoneySettings } from '@/core/pricing/settings';
import { readJson } from '@/server/http/body';
import { json, route } from '@/server/http/route';
import { loadMoney, saveMoneySettings } from '@/server/pricing/settings';

/** What holds for all prices of the workspace: margin on rates, taxes, discounts, where it sells. */
export const GET = route('read', async ({ ctx, actor }) => json(await loadMoney(ctx, actor.workspaceId)));

/** Takes the place of all of it; the core's checker says what is wrong. */
export const PUT = route('money', async ({ ctx, actor, request }) =>
  json({ settings: await saveMoneySettings(ctx, actor, (await readJson(request)) as MoneySettings) }),
);
