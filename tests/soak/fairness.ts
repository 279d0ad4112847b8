import { hostileAccount } from '../support/hostile';
import { slowSvg, smallPng, uploader } from '../support/slow-artwork';
import { withStack } from './stack';

const ROUNDS = 5;
const MAX_RATIO = 2;

const median = (all: readonly number[]): number => all.toSorted((a, b) => a - b)[Math.floor(all.length / 2)]!;

/** How long a small upload takes alone, and while four hostile ones of another workspace are being looked at. */
export default function fairness(): Promise<boolean> {
  return withStack(async ({ origin }, say) => {
    const slow = uploader(origin, (await hostileAccount(origin)).token);
    const other = uploader(origin, (await hostileAccount(origin)).token);
    let salt = 10;
    const once = async () => other.waitFor(await other.upload(await smallPng((salt += 1)), `small${salt}.png`));
    await once();
    const alone: number[] = [];
    for (let i = 0; i < ROUNDS; i += 1) alone.push(await once());
    for (let i = 0; i < 4; i += 1) await slow.upload(slowSvg(800, i), `slow${i}.svg`);
    await new Promise((next) => setTimeout(next, 1000));
    const beside: number[] = [];
    for (let i = 0; i < ROUNDS; i += 1) beside.push(await once());
    const ratio = median(beside) / median(alone);
    say(
      `soak fairness ratio ${ratio.toFixed(2)} (alone ${Math.round(median(alone))} ms, beside four hostile uploads ${Math.round(median(beside))} ms, rounds ${ROUNDS})`,
    );
    return ratio <= MAX_RATIO;
  });
}
