'use client';

import { useEffect, useState } from 'react';
import { colorOption } from '@/core/catalog/blank';
import { call } from '@/ui/api';
import { Sheet } from '@/ui/Sheet';
import { useDesk } from './desk';

interface MockUpView {
  readonly shotId: string;
  readonly shot: string;
  readonly color: string | null;
  readonly href: string;
}

/** Every chosen color on every shot of what is printed, to look at and keep. */
export function PicturesSheet({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { data, state, doc } = useDesk();
  const [mockUps, setMockUps] = useState<readonly MockUpView[] | null>(null);
  const [error, setError] = useState<string | null>(null);
  useEffect(() => {
    if (open)
      call<{ mockUps: MockUpView[] }>('GET', `/products/${data.product.id}/mock-ups`).then(
        (answer) => setMockUps(answer.mockUps),
        (e: Error) => setError(e.message),
      );
  }, [open, data.product.id, state.revision]);
  const colors = colorOption(data.blank)?.values ?? [];
  return (
    <Sheet open={open} onClose={onClose} title="Pictures" wide>
      {error && (
        <p role="alert" className="text-small text-stop">
          {error}
        </p>
      )}
      {mockUps?.length === 0 && (
        <p className="text-muted">There is nothing to see yet: place artwork and choose at least one variant.</p>
      )}
      <ul className="grid grid-cols-4 gap-4 max-h-[68vh] overflow-auto">
        {mockUps?.map((mockUp) => {
          const name = [colors.find((c) => c.code === mockUp.color)?.name, mockUp.shot].filter(Boolean).join(', ');
          const proof = `${mockUp.href.replace('size=full', 'size=proof')}&revision=${state.revision}`;
          return (
            <li key={mockUp.href}>
              <a href={mockUp.href} target="_blank" rel="noreferrer">
                <img
                  src={proof}
                  alt={`${data.blank.name}, ${name}`}
                  className="aspect-square w-full rounded-paper border border-hairline"
                  loading="lazy"
                />
              </a>
              <div className="flex justify-between text-small mt-1">
                <span className="truncate">{name}</span>
                <a
                  href={mockUp.href}
                  download={`${doc.words.base.title} ${name}.jpg`}
                  className="text-primary underline"
                >
                  JPEG
                </a>
              </div>
            </li>
          );
        })}
      </ul>
    </Sheet>
  );
}
