import type { PriceRule } from '@/core/pricing/rule';
import { PriceRuleDto } from '@/server/http/dto/pricing';
import { readBody } from '@/server/http/body';
import { json, route } from '@/server/http/route';
import { listRules, saveRule } from '@/server/pricing/rules';

export const GET = route('read', async ({ ctx, actor }) => json({ rules: await listRules(ctx, actor.workspaceId) }));

export const POST = route('price', async ({ ctx, actor, request }) => {
  const { name, rule, forNew } = await readBody(request, PriceRuleDto);
  return json(await saveRule(ctx, actor, { name, rule: rule as PriceRule, forNew }), 201);
});
