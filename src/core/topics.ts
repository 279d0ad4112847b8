/**
 * What a workspace's events are about. `job`: a job's progress; `product`: it was made, changed (with its `revision`), or put away;
 * `listing`: a listing moved; `artwork`: ingested; `picture`: a picture of a product was made; `finding`: one was accepted; `money`: rates,
 * settings or rules of prices; `outcome`: a product was judged by the rules of its stores; `send`: a group of listings moved.
 */
export const TOPICS = [
  'job',
  'product',
  'listing',
  'artwork',
  'store',
  'catalog',
  'finding',
  'picture',
  'money',
  'sale',
  'outcome',
  'send',
] as const;

export type Topic = (typeof TOPICS)[number];
