'use client';

import { Star } from 'lucide-react';
import { useState } from 'react';
import { call } from '@/ui/api';
import { toast } from '@/ui/toast';

/** A star that marks a blank for the whole workspace, and takes the mark off. */
export function Favorite({ blankId, name, on: first }: { blankId: string; name: string; on: boolean }) {
  const [on, setOn] = useState(first);
  const turn = async () => {
    setOn(!on);
    try {
      await call(on ? 'DELETE' : 'PUT', `/blanks/${blankId}/favorite`);
      // What counts and filters favorites reads them anew; where nothing does, nothing is loaded for it.
      if (document.querySelector('[aria-label="Filters of blanks"]'))
        await (await import('@/ui/queries')).queries().invalidateQueries({ queryKey: ['catalog'] });
    } catch (error) {
      setOn(on);
      toast.error((error as Error).message);
    }
  };
  return (
    <button
      type="button"
      aria-pressed={on}
      aria-label={`Favorite: ${name}`}
      title={on ? 'A favorite; press to take it off' : 'Make it a favorite'}
      onClick={() => void turn()}
      className="grid size-6 shrink-0 place-items-center rounded-paper hover:bg-selection"
    >
      <Star size={14} aria-hidden className={on ? 'fill-primary text-primary' : 'text-edge'} />
    </button>
  );
}
