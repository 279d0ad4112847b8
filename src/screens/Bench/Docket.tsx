'use client';

import { History, PanelRight, Redo2, Undo2 } from 'lucide-react';
import dynamic from 'next/dynamic';
import { useState } from 'react';
import { IconButton } from '@/ui/IconButton';
import { useDesk } from './desk';
import { ProductMenu } from './ProductMenu';
import { SaveState, SaveTrouble } from './SaveState';
import { wordsBreak } from './Words/words';
import { docketLines } from './view';

const HistorySheet = dynamic(() => import('./HistorySheet').then((m) => m.HistorySheet));

const TONES = { done: 'text-kept', lacking: 'text-muted', warn: 'text-caution', stop: 'text-stop' } as const;

/** The docket: the parts of the product, what each lacks, and whether all is saved. */
export function Docket({
  onKeys,
  proofOpen,
  onProof,
}: {
  onKeys: () => void;
  /** Whether the proof lies over the part: only where the window is narrow. */
  proofOpen: boolean;
  onProof: () => void;
}) {
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
    wordsBroken: wordsBreak(desk),
    listings,
  });
  return (
    <aside
      aria-label="Docket"
      className="flex flex-col min-h-0 overflow-auto bg-paper max-[900px]:flex-row max-[900px]:flex-wrap max-[900px]:items-center max-[900px]:border-b max-[900px]:border-hairline"
    >
      <div className="flex items-start gap-1 pl-[18px] pr-2 pt-4 pb-3 max-[900px]:py-1">
        <div className="min-w-0 flex-1">
          <h1 className="font-display text-[19px] leading-tight font-semibold break-words max-[900px]:max-w-40 max-[900px]:truncate max-[900px]:text-base">
            {doc.words.base.title.trim() || 'Untitled'}
          </h1>
          <p className="text-tiny text-muted mt-0.5 max-[900px]:hidden">
            {data.blank.name} · {data.blank.partner.name}
          </p>
        </div>
        <ProductMenu />
      </div>
      <nav
        aria-label="Parts"
        className="max-[900px]:order-last max-[900px]:flex max-[900px]:w-full max-[900px]:flex-wrap"
      >
        {lines.map((line, i) => (
          <button
            key={line.part}
            type="button"
            aria-current={line.part === part ? 'step' : undefined}
            onClick={() => goTo(line.part)}
            title={`Key ${i + 1}`}
            className={`w-full text-left flex items-center justify-between gap-2 pl-[15px] pr-[18px] py-2 border-l-[3px] max-[900px]:w-auto max-[900px]:border-l-0 max-[900px]:border-b-[3px] max-[900px]:px-2 max-[900px]:py-1 max-[900px]:text-small ${line.part === part ? 'bg-sheet border-primary' : 'border-transparent hover:bg-sheet'}`}
          >
            <span className="min-w-0">
              <span className="block font-semibold">{line.name}</span>
              <span className="block text-tiny text-muted max-[900px]:hidden">{line.truth}</span>
            </span>
            <span className={`text-tiny whitespace-nowrap ${TONES[line.mark.kind]}`}>
              {line.mark.kind === 'done' ? <span aria-label="done">✓</span> : line.mark.text}
            </span>
          </button>
        ))}
      </nav>
      <div className="mt-auto pt-3 max-[900px]:m-0 max-[900px]:p-0">
        <SaveTrouble />
      </div>
      <div className="px-[18px] py-3 border-t border-hairline text-tiny text-muted max-[900px]:ml-auto max-[900px]:border-0 max-[900px]:py-1">
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
          <IconButton name="Keys" onClick={onKeys} className="border border-edge">
            ?
          </IconButton>
          <button
            type="button"
            aria-expanded={proofOpen}
            onClick={onProof}
            className="hidden min-h-6 items-center gap-1 px-1.5 text-small text-primary max-[900px]:inline-flex"
          >
            <PanelRight size={15} aria-hidden /> Proof
          </button>
        </div>
      </div>
      {historyOpen && <HistorySheet open onClose={() => setHistoryOpen(false)} />}
    </aside>
  );
}
