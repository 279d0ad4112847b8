'use client';

import { Maximize2 } from 'lucide-react';
import { later, laterInBrowser } from '@/ui/later';
import { useState } from 'react';
import { colorOption } from '@/core/catalog/blank';
import { chosenColors } from '@/core/document/chosen';
import { Button } from '@/ui/Button';
import { IconButton } from '@/ui/IconButton';
import { Select } from '@/ui/Select';
import { useDesk } from './desk';
import { ColorSteps } from './Proof/ColorSteps';
import { TurnControls } from './Proof/TurnControls';

// Both show what a worker has found or drawn: they come while it begins.
const FindingList = laterInBrowser(() => import('./Findings/FindingList').then((m) => m.FindingList));
const PriceProblem = laterInBrowser(() => import('./PriceProblem').then((m) => m.PriceProblem));
const ProofCanvas = laterInBrowser(() => import('./Proof/ProofCanvas').then((m) => m.ProofCanvas));
const PrintFilesSheet = later(() => import('./PrintFilesSheet').then((m) => m.PrintFilesSheet));
const MiniSheet = later(() => import('./Artwork/MiniSheet').then((m) => m.MiniSheet));
const ColorsSheet = later(() => import('./Proof/ColorsSheet').then((m) => m.ColorsSheet));
const LargeProof = later(() => import('./Proof/LargeProof').then((m) => m.LargeProof));

/** The proof: the product as it is now on the color in view, and what the checks say. */
export function ProofRail({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { data, proof, goTo } = useDesk('data', 'proof', 'goTo');
  const [filesOpen, setFilesOpen] = useState(false);
  const { shot } = proof;
  return (
    <aside
      aria-label="Proof"
      className={`min-h-0 overflow-auto bg-paper p-3.5 max-[900px]:fixed max-[900px]:inset-y-0 max-[900px]:right-0 max-[900px]:z-30 max-[900px]:w-[320px] max-[900px]:max-w-full max-[900px]:border-l max-[900px]:border-ink ${open ? '' : 'max-[900px]:hidden'}`}
    >
      <div className="mb-2 hidden justify-end max-[900px]:flex">
        <Button kind="quiet" onClick={onClose}>
          Close the proof
        </Button>
      </div>
      <div className="[@media(min-height:640px)]:sticky [@media(min-height:640px)]:-top-3.5 z-10 bg-paper -mt-3.5 pt-3.5 pb-1">
        <Picture />
        <Swatches />
      </div>
      <div className="flex items-center justify-between mt-2 gap-2">
        {proof.shots.length > 1 && shot ? (
          <Select
            label="View"
            value={shot.id}
            choices={proof.shots.map((one) => ({ value: one.id, name: one.name }))}
            onChange={proof.setShot}
          />
        ) : (
          <span />
        )}
        <TurnControls />
      </div>
      <div className="flex gap-3.5 mt-1 mb-2">
        {colorOption(data.blank) && shot && (
          <Button kind="quiet" title="Key A" onClick={() => proof.setOpen('colors')}>
            All colors
          </Button>
        )}
        <Button kind="quiet" onClick={() => goTo('pictures')}>
          Pictures
        </Button>
        <Button kind="quiet" onClick={() => setFilesOpen(true)}>
          Print files
        </Button>
      </div>
      <FindingList />
      <PriceProblem />
      {proof.open === 'colors' && <ColorsSheet />}
      {proof.open === 'large' && <LargeProof />}
      {filesOpen && <PrintFilesSheet open onClose={() => setFilesOpen(false)} />}
    </aside>
  );
}

/** The proof itself, or the sheet where the blank has no shot. */
function Picture() {
  const { data, color, proof, areaKey, geometryId } = useDesk('data', 'color', 'proof', 'areaKey', 'geometryId');
  const name = colorOption(data.blank)?.values.find((value) => value.code === color)?.name;
  return (
    <div className="relative aspect-square rounded-paper border border-hairline bg-sheet overflow-hidden">
      {proof.shot ? (
        <>
          {/* One proof is drawn at a time: while it is seen large, the small one rests. */}
          {proof.open !== 'large' && (
            <ProofCanvas label={`${data.blank.name}${name ? ` in ${name}` : ''} with the design as it is now`} />
          )}
          <IconButton
            name="Larger"
            title="Large view, key L"
            onClick={() => proof.setOpen('large')}
            className="absolute! right-2 top-2 bg-sheet/90 border border-hairline"
          >
            <Maximize2 size={14} aria-hidden />
          </IconButton>
        </>
      ) : (
        <span className="absolute inset-0 grid place-content-center justify-items-center gap-2">
          <MiniSheet areaKey={areaKey} geometryId={geometryId} sidePx={200} />
          <span className="px-4 text-center text-tiny text-muted">
            There is no shot of this blank yet: its area as it is printed. A photograph of your own can be one, under
            Pictures.
          </span>
        </span>
      )}
    </div>
  );
}

/** The chosen colors, of which one is in view; all of them while none is chosen. */
function Swatches() {
  const { data, designed, color, setColor } = useDesk('data', 'designed', 'color', 'setColor');
  const values = colorOption(data.blank)?.values ?? [];
  const chosen = chosenColors(designed, data.blank);
  const name = values.find((value) => value.code === color)?.name;
  const swatches = values.filter(({ code }) => chosen.length === 0 || chosen.includes(code) || code === color);
  return (
    <div className="flex items-center gap-1.5 mt-2.5 flex-wrap">
      {swatches.map((value) => (
        <button
          key={value.code}
          type="button"
          aria-label={value.name}
          aria-pressed={value.code === color}
          title={value.name}
          onClick={() => setColor(value.code)}
          className={`size-6 rounded-paper border border-ink/25 ${value.code === color ? 'outline-2 outline-ink outline-offset-1' : ''}`}
          style={{ background: value.hex ?? undefined }}
        />
      ))}
      {name && (
        <span className="ml-auto inline-flex items-center text-small text-muted">
          {name}
          <ColorSteps />
        </span>
      )}
    </div>
  );
}
