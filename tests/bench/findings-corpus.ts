import { corpus, judgeAll } from '../corpus/findings/corpus';
import { score } from '../corpus/findings/designs';
import type { Budget } from './run';

/** Precision and recall of the checks over the corpus of designs: at least 0.95 by kind, 0.97 all together, and every good design left alone. */
const findingsCorpus: Budget = {
  name: 'findings-corpus',
  async measure() {
    const designs = corpus();
    const { byCode, total, quiet, faults } = score(await judgeAll(designs));
    const share = (value: number) => value.toFixed(3);
    const good = designs.filter(({ kind }) => kind === 'good').length;
    return [
      `precision ${share(total.precision)} recall ${share(total.recall)} over ${designs.length} designs (budget 0.97 each); ${good} good designs, ${share(quiet)} of them left alone (budget 1)`,
      ...[...byCode].map(
        ([code, one]) =>
          `  ${code}: precision ${share(one.precision)}, recall ${share(one.recall)} (${one.right} right, ${one.wrong} wrong, ${one.missed} missed)`,
      ),
      ...faults.map((fault) => `  ! ${fault}`),
    ].join('\n');
  },
};

export default findingsCorpus;
