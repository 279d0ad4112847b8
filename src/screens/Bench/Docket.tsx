'use client';

import { History, PanelRight, Redo2, Undo2 } from 'lucide-react';
import Link from 'next/link';
import { later } from '@/ui/later';
import { useState } from 'react';
import { IconButton } from '@/ui/IconButton';
import { useDesk, useDeskOf } from './desk';
import { ProductMenu } from './ProductMenu';
import { SaveState, SaveTrouble } from './SaveState';
import { PARTS } from './parts';

const HistorySheet = later(() => import('./HistorySheet').then((m) => m.HistorySheet));

// What each part comes to is worked out beside the page: it is there as the server drew it until then.
const DocketText = later(() => import('./DocketText').then((m) => m.DocketText), <span>…</span>);

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
  const { data } = useDesk('data');
  const title = useDeskOf(({ doc }) => doc.words.base.title.trim());
  return (
    <aside
      aria-label="Docket"
      className="flex flex-col min-h-0 overflow-auto bg-paper max-[900px]:flex-row max-[900px]:flex-wrap max-[900px]:items-center max-[900px]:border-b max-[900px]:border-hairline"
    >
      <div className="flex items-start gap-1 pl-[18px] pr-2 pt-2 pb-3 max-[900px]:py-1">
        <div className="min-w-0 flex-1">
          <p className="text-tiny max-[900px]:hidden">
            <Link href="/range" className="inline-flex min-h-6 items-center text-primary underline underline-offset-2">
              Range
            </Link>
          </p>
          <h1 className="font-display text-[19px] leading-tight font-semibold break-words max-[900px]:max-w-40 max-[900px]:truncate max-[900px]:text-base">
            {title || 'Untitled'}
          </h1>
          <p className="text-tiny text-muted mt-0.5 max-[900px]:hidden">
            {data.blank.name} · {data.blank.partner.name}
          </p>
        </div>
        <ProductMenu />
      </div>
      <Parts />
      <div className="mt-auto pt-3 max-[900px]:m-0 max-[900px]:p-0">
        <SaveTrouble />
      </div>
      <div className="px-[18px] py-3 border-t border-hairline text-tiny text-muted max-[900px]:ml-auto max-[900px]:border-0 max-[900px]:py-1">
        <div className="flex items-center gap-1">
          <UndoRedo />
          <SaveState />
          <HistoryButton />
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
    </aside>
  );
}

/** The parts, what each lacks, and which is in view. */
function Parts() {
  const { part, goTo } = useDesk('part', 'goTo');
  return (
    <nav
      aria-label="Parts"
      className="max-[900px]:order-last max-[900px]:flex max-[900px]:w-full max-[900px]:flex-wrap"
    >
      {PARTS.map((one, i) => (
        <button
          key={one}
          type="button"
          aria-current={one === part ? 'step' : undefined}
          onClick={() => goTo(one)}
          title={`Key ${i + 1}`}
          className={`w-full text-left flex items-center justify-between gap-2 pl-[15px] pr-[18px] py-2 border-l-[3px] max-[900px]:w-auto max-[900px]:border-l-0 max-[900px]:border-b-[3px] max-[900px]:px-2 max-[900px]:py-1 max-[900px]:text-small ${one === part ? 'bg-sheet border-primary' : 'border-transparent hover:bg-sheet'}`}
        >
          <DocketText part={one} />
        </button>
      ))}
    </nav>
  );
}

function UndoRedo() {
  const { session } = useDesk('session');
  const canUndo = useDeskOf(({ state }) => state.canUndo);
  const canRedo = useDeskOf(({ state }) => state.canRedo);
  return (
    <>
      <IconButton
        name={`Undo ${canUndo ?? ''}`.trim()}
        title={canUndo ? `Undo ${canUndo}` : 'Nothing to undo'}
        disabled={!canUndo}
        onClick={() => session.undo()}
      >
        <Undo2 size={16} aria-hidden />
      </IconButton>
      <IconButton
        name={`Redo ${canRedo ?? ''}`.trim()}
        title={canRedo ? `Redo ${canRedo}` : 'Nothing to redo'}
        disabled={!canRedo}
        onClick={() => session.redo()}
      >
        <Redo2 size={16} aria-hidden />
      </IconButton>
    </>
  );
}

function HistoryButton() {
  const [open, setOpen] = useState(false);
  return (
    <>
      <IconButton name="History" className="ml-auto" onClick={() => setOpen(true)}>
        <History size={16} aria-hidden />
      </IconButton>
      {open && <HistorySheet open onClose={() => setOpen(false)} />}
    </>
  );
}
