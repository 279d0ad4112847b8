'use client';

import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useEffect, useState } from 'react';
import { MiniSheet } from './Artwork/MiniSheet';
import { colorOption } from '@/core/catalog/blank';
import { chosenColors } from '@/core/listing/form';
import { Button } from '@/ui/Button';
import { IconButton } from '@/ui/IconButton';
import { Select } from '@/ui/Select';
import { useDesk } from './desk';
import { FindingList } from './Findings/FindingList';
import { stepColor } from './keys';
import { PicturesSheet } from './PicturesSheet';
import { PrintFilesSheet } from './PrintFilesSheet';

/** The newest picture that has arrived: while the next one is made, the last stays in view. */
function useArrived(src: string | null): { shown: string | null; pending: boolean; failed: boolean } {
  const [shown, setShown] = useState<string | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  useEffect(() => {
    if (!src) return;
    let current = true;
    const image = new Image();
    image.onload = () => current && setShown(src);
    image.onerror = () => current && setFailed(src);
    image.src = src;
    return () => {
      current = false;
    };
  }, [src]);
  return {
    shown: src === null ? null : shown,
    pending: src !== null && shown !== src && failed !== src,
    failed: failed === src && src !== null,
  };
}

/** The proof: the product as it is now on the color in view, and what the checks say. */
export function ProofRail() {
  const desk = useDesk();
  const { data, doc, color, setColor, state } = desk;
  const [shotWish, setShot] = useState<string | null>(null);
  const [filesOpen, setFilesOpen] = useState(false);
  const [picturesOpen, setPicturesOpen] = useState(false);
  const area = data.shots.find((shot) => desk.areaKey in shot.areas);
  const shot = data.shots.find((s) => s.id === shotWish) ?? area ?? data.shots[0];
  const src = shot
    ? `/api/v1/products/${data.product.id}/mock-ups/${shot.id}?${color ? `color=${color}&` : ''}size=proof&revision=${state.revision}`
    : null;
  const { shown, pending, failed } = useArrived(src);
  const values = colorOption(data.blank)?.values ?? [];
  const chosen = chosenColors(doc, data.blank);
  const name = values.find((value) => value.code === color)?.name;
  const swatches = values.filter((value) => chosen.length === 0 || chosen.includes(value.code) || value.code === color);
  return (
    <aside aria-label="Proof" className="min-h-0 overflow-auto bg-paper p-3.5">
      <div className="relative aspect-square rounded-paper border border-hairline bg-sheet overflow-hidden">
        {shown && (
          <img
            src={shown}
            alt={`${data.blank.name}${name ? ` in ${name}` : ''} with the design as it is now`}
            data-testid="proof"
            data-revision={pending ? '' : state.revision}
            className="size-full object-cover"
          />
        )}
        {!shot && (
          <span className="absolute inset-0 grid place-content-center justify-items-center gap-2">
            <MiniSheet areaKey={desk.areaKey} geometryId={desk.geometryId} sidePx={200} />
            <span className="px-4 text-center text-tiny text-muted">
              There is no picture of this blank yet: its area as it is printed.
            </span>
          </span>
        )}
        {(pending || state.save === 'saving') && (
          <span className="absolute left-2 top-2 rounded-paper bg-sheet/90 border border-hairline px-1.5 text-tiny text-muted">
            ◔ renewing
          </span>
        )}
        {failed && (
          <p className="absolute inset-x-3 bottom-3 text-small text-stop">
            The picture could not be made. Your design is saved; the next change tries again.
          </p>
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
            <IconButton name="Previous color" title="Key ," onClick={() => stepColor(desk, -1)}>
              <ChevronLeft size={15} aria-hidden />
            </IconButton>
            <IconButton name="Next color" title="Key ." onClick={() => stepColor(desk, 1)}>
              <ChevronRight size={15} aria-hidden />
            </IconButton>
          </span>
        )}
      </div>
      <div className="flex items-baseline justify-between mt-2 mb-2">
        {data.shots.length > 1 && shot ? (
          <Select
            label="View"
            value={shot.id}
            choices={data.shots.map((s) => ({ value: s.id, name: s.name }))}
            onChange={setShot}
          />
        ) : (
          <span />
        )}
        <span className="flex gap-3.5">
          <Button kind="quiet" onClick={() => setPicturesOpen(true)}>
            Pictures
          </Button>
          <Button kind="quiet" onClick={() => setFilesOpen(true)}>
            Print files
          </Button>
        </span>
      </div>
      <FindingList />
      {desk.priceProblem && (
        <p className="text-small text-stop border-l-[3px] border-stop pl-2 mt-2">{desk.priceProblem}</p>
      )}
      <PicturesSheet open={picturesOpen} onClose={() => setPicturesOpen(false)} />
      <PrintFilesSheet open={filesOpen} onClose={() => setFilesOpen(false)} />
    </aside>
  );
}
