'use client';

import { History, Redo2, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { IconButton } from '@/ui/IconButton';
import { useDesk } from './desk';
import { HistorySheet } from './HistorySheet';
import { SaveState, SaveTrouble } from './SaveState';
import { docketLines } from './view';

const TONES = { done: 'text-kept', lacking: 'text-muted', warn: 'text-caution', stop: 'text-stop' } as const;

/** The docket: the parts of the product, what each lacks, and whether all is saved. */
export function Docket({ onKeys }: { onKeys: () => void }) {
  const desk = useDesk();
  const [historyOpen, setHistoryOpen] = useState(false);
  const { doc, data, findings, priced, listings, part, goTo, state, session, store } = desk;
  const lines = docketLines({
    doc,
    blank: data.blank,
    list: data.list,
    // What someone took upon themselves is no longer counted.
    findings: findings.filter((finding) => !desk.acceptances.of(finding)),
    priced,
    currency: store?.currency ?? data.home.currency,
    shots: data.shots.map(({ id, name, angle, chosenOnly, areas }) => ({
      id,
      document: { name, angle, chosenOnly, areas },
    })),
    listings,
  });
  return (
    <aside aria-label="Docket" className="flex flex-col min-h-0 overflow-auto bg-paper">
      <div className="px-[18px] pt-4 pb-3">
        <h1 className="font-display text-[19px] leading-tight font-semibold break-words">
          {doc.words.base.title.trim() || 'Untitled'}
        </h1>
        <p className="text-tiny text-muted mt-0.5">
          {data.blank.name} · {data.blank.partner.name}
        </p>
      </div>
      <nav aria-label="Parts">
        {lines.map((line, i) => (
          <button
            key={line.part}
            type="button"
            aria-current={line.part === part ? 'step' : undefined}
            onClick={() => goTo(line.part)}
            title={`Key ${i + 1}`}
            className={`w-full text-left flex items-center justify-between gap-2 pl-[15px] pr-[18px] py-2 border-l-[3px] ${line.part === part ? 'bg-sheet border-primary' : 'border-transparent hover:bg-sheet'}`}
          >
            <span className="min-w-0">
              <span className="block font-semibold">{line.name}</span>
              <span className="block text-tiny text-muted">{line.truth}</span>
            </span>
            <span className={`text-tiny whitespace-nowrap ${TONES[line.mark.kind]}`}>
              {line.mark.kind === 'done' ? <span aria-label="done">✓</span> : line.mark.text}
            </span>
          </button>
        ))}
      </nav>
      <div className="mt-auto pt-3">
        <SaveTrouble />
      </div>
      <div className="px-[18px] py-3 border-t border-hairline text-tiny text-muted">
        <div className="flex items-center gap-1">
          <IconButton
            name={`Undo ${state.canUndo ?? ''}`.trim()}
            title={state.canUndo ? `Undo ${state.canUndo}` : 'Nothing to undo'}
            disabled={!state.canUndo}
            onClick={() => session.undo()}
          >
            <Undo2 size={16} aria-hidden />
          </IconButton>
          <IconButton
            name={`Redo ${state.canRedo ?? ''}`.trim()}
            title={state.canRedo ? `Redo ${state.canRedo}` : 'Nothing to redo'}
            disabled={!state.canRedo}
            onClick={() => session.redo()}
          >
            <Redo2 size={16} aria-hidden />
          </IconButton>
          <SaveState />
          <IconButton name="History" className="ml-auto" onClick={() => setHistoryOpen(true)}>
            <History size={16} aria-hidden />
          </IconButton>
          <IconButton name="Keys" onClick={onKeys} className="border border-hairline">
            ?
          </IconButton>
        </div>
      </div>
      <HistorySheet open={historyOpen} onClose={() => setHistoryOpen(false)} />
    </aside>
  );
}
