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
  const desk = useDesk('data', 'designed', 'color', 'setColor', 'proof', 'areaKey', 'geometryId', 'goTo');
  const { data, designed: doc, color, setColor, proof } = desk;
  const [filesOpen, setFilesOpen] = useState(false);
  const { shot } = proof;
  const values = colorOption(data.blank)?.values ?? [];
  const chosen = chosenColors(doc, data.blank);
  const name = values.find((value) => value.code === color)?.name;
  const swatches = values.filter((value) => chosen.length === 0 || chosen.includes(value.code) || value.code === color);
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
        <div className="relative aspect-square rounded-paper border border-hairline bg-sheet overflow-hidden">
          {shot ? (
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
              <MiniSheet areaKey={desk.areaKey} geometryId={desk.geometryId} sidePx={200} />
              <span className="px-4 text-center text-tiny text-muted">
                There is no shot of this blank yet: its area as it is printed. A photograph of your own can be one,
                under Pictures.
              </span>
            </span>
          )}
        </div>
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
        {values.length > 0 && shot && (
          <Button kind="quiet" title="Key A" onClick={() => proof.setOpen('colors')}>
            All colors
          </Button>
        )}
        <Button kind="quiet" onClick={() => desk.goTo('pictures')}>
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
