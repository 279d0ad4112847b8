import { corpus, judgeAll } from '../corpus/findings/corpus';
import { score } from '../corpus/findings/designs';
import { doAll, type Done } from '../corpus/findings/remedies';
import type { Budget } from './bench';

/** Precision and recall of the checks over the corpus of designs: at least 0.95 by kind, 0.97 all together, and every good design left alone. */
const findingsCorpus: Budget = {
  name: 'findings-corpus',
  async measure() {
    const designs = corpus();
    const judged = await judgeAll(designs);
    const { byCode, total, quiet, faults } = score(judged);
    const done: Done[] = [];
    for (const one of judged) done.push(...(await doAll(one)));
    const bad = done.filter(({ left, brought }) => left || brought.length > 0);
    const share = (value: number) => value.toFixed(3);
    const good = designs.filter(({ kind }) => kind === 'good').length;
    return [
      `precision ${share(total.precision)} recall ${share(total.recall)} over ${designs.length} designs (budget 0.97 each); ${good} good designs, ${share(quiet)} of them left alone (budget 1)`,
      `  remedies: ${done.length} done, ${done.length - bad.length} of them clear their finding and bring none`,
      ...[...byCode].map(
        ([code, one]) =>
          `  ${code}: precision ${share(one.precision)}, recall ${share(one.recall)} (${one.right} right, ${one.wrong} wrong, ${one.missed} missed)`,
      ),
      ...faults.map((fault) => `  ! ${fault}`),
      ...bad.map(
        ({ finding, left, brought }) =>
          `  ! ${finding.says}: ${left ? 'stays' : brought.map(({ says }) => says).join('; ')}`,
      ),
    ].join('\n');
  },
};

export default findingsCorpus;
