'use client';

import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';
import { X } from 'lucide-react';
import { colorOption } from '@/core/catalog/blank';
import { IconButton } from '@/ui/IconButton';
import { Select } from '@/ui/Select';
import { useDesk, useDeskNow } from '../desk';
import { stepColor } from '../keys';
import { ColorSteps } from './ColorSteps';
import { ProofCanvas } from './ProofCanvas';
import { TurnControls } from './TurnControls';

/** The proof as large as the window allows. */
export function LargeProof() {
  const desk = useDesk('proof', 'data', 'color');
  const now = useDeskNow();
  const { proof, data, color } = desk;
  const name = colorOption(data.blank)?.values.find((value) => value.code === color)?.name;
  return (
    <Dialog open={proof.open === 'large'} onClose={() => proof.setOpen(null)} className="relative z-40 outline-none">
      <div className="fixed inset-0 bg-ink/25" aria-hidden />
      <div className="fixed inset-0 grid place-items-center p-5">
        <DialogPanel
          className="flex flex-col rounded-paper border border-ink bg-sheet max-h-full"
          style={{ width: 'min(96vw, calc(100vh - 110px))' }}
          onKeyDown={(e) => {
            if (e.key === ',' || e.key === '.') stepColor(now(), e.key === '.' ? 1 : -1);
          }}
        >
          <div className="flex items-center gap-3 border-b border-hairline px-4 py-2">
            <DialogTitle className="font-display text-[17px]">
              {data.blank.name}
              {name ? `, ${name}` : ''}
            </DialogTitle>
            <span className="ml-auto flex items-center gap-2">
              {proof.shot && proof.shots.length > 1 && (
                <Select
                  label="View"
                  quiet
                  value={proof.shot.id}
                  choices={proof.shots.map((shot) => ({ value: shot.id, name: shot.name }))}
                  onChange={proof.setShot}
                />
              )}
              <TurnControls />
              {name && <ColorSteps />}
              <IconButton name="Close" onClick={() => proof.setOpen(null)}>
                <X size={18} aria-hidden />
              </IconButton>
            </span>
          </div>
          <div className="relative aspect-square min-h-0">
            <ProofCanvas label={`${data.blank.name}${name ? ` in ${name}` : ''} with the design as it is now, large`} />
          </div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
