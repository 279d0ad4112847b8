'use client';

import { Dialog, DialogPanel, DialogTitle } from '@headlessui/react';
import { X } from 'lucide-react';
import { IconButton } from './IconButton';
import { KeysOff } from './keys';
import type { SheetLook } from './sheet-look';

/** The dialog of a `Sheet`. */
export default function SheetDialog({ open, onClose, title, children, wide = false }: SheetLook) {
  return (
    <Dialog open={open} onClose={onClose ?? (() => {})} className="relative z-40 outline-none">
      <div className="fixed inset-0 bg-ink/25" aria-hidden />
      <div className="fixed inset-0 flex items-start justify-center overflow-auto p-8 max-[900px]:p-3">
        <KeysOff />
        <DialogPanel
          className={`w-full ${wide === 'full' ? 'max-w-[1240px]' : wide ? 'max-w-4xl' : 'max-w-lg'} rounded-paper border border-ink bg-sheet`}
        >
          <div className="flex items-baseline justify-between border-b border-hairline px-5 py-3">
            <DialogTitle className="min-w-0 break-words font-display text-[18px]">{title}</DialogTitle>
            {onClose && (
              <IconButton name="Close" onClick={onClose} className="self-center">
                <X size={18} aria-hidden />
              </IconButton>
            )}
          </div>
          <div className="px-5 py-4">{children}</div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
