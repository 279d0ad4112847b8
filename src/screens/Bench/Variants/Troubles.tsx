'use client';

import { setChosen } from '@/core/document/choosing';
import { variantTroubles } from '@/core/variants/trouble';
import { SEVERITY_WORDS } from '@/screens/severity';
import { Button } from '@/ui/Button';
import { useDesk } from '../desk';

/** What of the chosen variants the partner cannot make now, with what to do; nothing when all can be made. */
export function Troubles() {
  const { data, doc, edit } = useDesk('data', 'doc', 'edit');
  const troubles = variantTroubles(data.blank, doc.variants);
  return troubles.map((trouble) => {
    const ended = trouble.kind === 'ended';
    return (
      <div
        key={trouble.kind}
        className={`mb-3 max-w-3xl border-l-[3px] pl-3 text-small ${ended ? 'border-stop' : 'border-caution'}`}
      >
        <p>
          <span className={`font-semibold ${ended ? 'text-stop' : 'text-caution'}`}>
            {SEVERITY_WORDS[ended ? 'stop' : 'warn']}:
          </span>{' '}
          {trouble.says} <span className="text-muted">{trouble.remedy}</span>
        </p>
        {ended && (
          <Button
            className="mt-1"
            onClick={() => edit('Drop ended variants', (d) => setChosen(d, trouble.variantKeys, false))}
          >
            Drop {trouble.variantKeys.length === 1 ? 'it' : `all ${trouble.variantKeys.length}`}
          </Button>
        )}
      </div>
    );
  });
}
