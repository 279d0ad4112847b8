import { describe, expect, it } from 'vitest';
import { sendStep, type SendFacts, type WantedVisibility } from './send-step';

const facts: SendFacts = { state: 'in-step', broken: null, visibility: 'draft', newAs: 'draft' };
const decide = (over: Partial<SendFacts>, wanted: WantedVisibility = 'as-is') =>
  sendStep({ ...facts, ...over }, wanted);

describe('what a send does about a listing', () => {
  it.each([
    ['new', { state: 'not-listed', visibility: null }, 'as-is', 'draft', false],
    ['new', { state: 'not-listed', visibility: null }, 'live', 'live', true],
    ['new', { state: 'not-listed', visibility: null, newAs: 'live' }, 'as-is', 'live', true],
    ['new', { state: 'not-listed', visibility: null, newAs: 'live' }, 'draft', 'draft', false],
    ['unchanged', { newAs: 'live' }, 'as-is', 'draft', false],
    ['changed', { state: 'ahead' }, 'as-is', 'draft', false],
    ['changed', { state: 'ahead', visibility: 'live' }, 'as-is', 'live', false],
    ['changed', { state: 'ahead' }, 'live', 'live', true],
    ['shown', {}, 'live', 'live', true],
    ['shown', { visibility: 'live' }, 'draft', 'draft', false],
    ['unchanged', {}, 'as-is', 'draft', false],
    ['unchanged', { visibility: 'live' }, 'live', 'live', false],
  ] as const)('is %s for %o, wanted %s', (what, over, wanted, visibility, goesLive) => {
    expect(decide(over, wanted)).toEqual({ what, visibility, goesLive, reason: null });
  });

  it.each([
    ['a broken rule, in its words', { state: 'ahead', broken: 'Its title is 4 characters too long.' }, /4 characters/],
    ['what was changed in the shop', { state: 'behind' }, /in the shop/],
    ['what was changed on both sides', { state: 'split' }, /here and in the shop/],
    ['what the shop refused', { state: 'refused', visibility: null }, /refused/],
  ] as const)('sends nothing over %s', (_, over, reason) => {
    const decided = decide(over, 'live');
    expect([decided.what, decided.goesLive]).toEqual(['stopped', false]);
    expect(decided.reason).toMatch(reason);
  });

  it('begins nothing a second time', () => {
    expect(decide({ state: 'on-its-way', broken: 'A rule.' }, 'live')).toMatchObject({ what: 'busy', goesLive: false });
  });
});
