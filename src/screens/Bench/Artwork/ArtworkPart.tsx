'use client';

import dynamic from 'next/dynamic';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { chosenGeometryIds } from '@/core/listing/form';
import { addText } from '@/bench/placing';
import { luminance, parseHex } from '@/core/artwork/color';
import { areaTitle, colorOption, geometryIdFor, parseVariantKey } from '@/core/catalog/blank';
import { ownEntry } from '@/core/own-entry';
import { useDesk } from '../desk';
import { LayerBar } from './LayerBar';
import { LayersPanel } from './LayersPanel';
import { MiniSheet } from './MiniSheet';
import { Shapes } from './Shapes';
import { Surface } from './Surface';
import { useArtworkUpload } from './upload';
import { newId } from '@/ui/ids';

/** Selects the words of the text that was just added, once its form is there: it can be loaded for the first time. */
function selectWords(tries = 60): void {
  const field = document.querySelector<HTMLTextAreaElement>('[data-words]');
  if (field) field.select();
  else if (tries > 0) requestAnimationFrame(() => selectWords(tries - 1));
}

const Ornaments = dynamic(() => import('./Ornaments').then((m) => m.Ornaments));
const Shelf = dynamic(() => import('./Shelf').then((m) => m.Shelf));

/** The working surface: artwork on one area of the blank. Files can be dropped on it. */
export function ArtworkPart() {
  const desk = useDesk();
  const { data, areaKey, geometryId, setArea, doc } = desk;
  const [shelfOpen, setShelfOpen] = useState(false);
  const [ornamentsOpen, setOrnamentsOpen] = useState(false);
  const [layersOpen, setLayersOpen] = useState(false);
  const { uploads, take, dismiss } = useArtworkUpload();
  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: (files) => files.forEach((file) => void take(file)),
  });
  const area = data.blank.areas.find((a) => a.key === areaKey)!;
  const used = chosenGeometryIds(doc, data.blank, areaKey);
  const shapes = (used.length > 0 ? used : area.geometries.map((g) => g.geometryId)).filter(
    (id, i, all) => all.indexOf(id) === i,
  );
  const shapeName = (id: string) => {
    const sizes = data.blank.variants
      .filter((v) => geometryIdFor(area, v.values) === id && (used.length === 0 || Object.hasOwn(doc.variants, v.key)))
      .map((v) => parseVariantKey(v.key).size ?? '');
    const option = data.blank.options.find((o) => o.code === 'size');
    const names = option?.values.filter((value) => sizes.includes(value.code)).map((value) => value.name) ?? [];
    return names.length > 2 ? `${names[0]} – ${names.at(-1)}` : names.join(', ') || 'all';
  };
  const writeText = () => {
    const id = newId();
    const ground = colorOption(data.blank)?.values.find((value) => value.code === desk.color)?.hex ?? '#ffffff';
    const ink = luminance(parseHex(ground)) < 0.3 ? '#ffffff' : '#1a1c20';
    desk.edit('Add text', (d) => addText(d, area, ownEntry(data.blank.geometries, geometryId)!, geometryId, id, ink));
    desk.select(id);
    // What it says is typed at once, in place of the sample.
    selectWords();
  };
  const empty = Object.keys(ownEntry(doc.areas, areaKey)?.layers ?? {}).length === 0;
  return (
    <div {...getRootProps({ className: 'relative h-full flex flex-col bg-board' })}>
      <input
        {...getInputProps({ 'aria-label': 'Upload artwork', style: {} })}
        className="hidden"
        data-testid="upload"
      />
      <div className="min-h-10 shrink-0 flex items-center gap-5 px-4 border-b border-hairline bg-paper">
        <div role="tablist" aria-label="Areas" className="flex flex-wrap gap-x-5 whitespace-nowrap">
          {data.blank.areas.map((a) => (
            <button
              key={a.key}
              type="button"
              role="tab"
              aria-selected={a.key === areaKey}
              onClick={() => setArea(a.key)}
              title="Page Up, Page Down"
              className={`inline-flex min-h-8 items-center gap-1.5 ${a.key === areaKey ? 'font-semibold' : 'text-muted hover:text-ink'}`}
            >
              <MiniSheet areaKey={a.key} geometryId={a.geometries[0]!.geometryId} sidePx={24} />
              {areaTitle(data.blank, a)}
              {Object.keys(ownEntry(doc.areas, a.key)?.layers ?? {}).length > 0 && (
                <span className="text-tiny text-muted"> {Object.keys(ownEntry(doc.areas, a.key)!.layers).length}</span>
              )}
            </button>
          ))}
        </div>
        <button
          type="button"
          aria-expanded={layersOpen}
          onClick={() => setLayersOpen(!layersOpen)}
          className="ml-auto hidden min-h-6 text-small text-primary underline max-[900px]:block"
        >
          Layers
        </button>
      </div>
      <Shapes shapes={shapes} nameOf={shapeName} />
      <div className="relative flex min-h-0 flex-1">
        <div className="relative min-w-0 flex-1">
          <Surface />
          {empty && (
            <div className="absolute inset-x-0 top-8 px-6 text-center pointer-events-none">
              <span className="inline-block rounded-paper border border-hairline bg-sheet px-3 py-1.5 text-small">
                Drop a PNG, JPEG, WebP or SVG here, or add artwork that you uploaded before.
              </span>
            </div>
          )}
          {isDragActive && (
            <div className="absolute inset-3 rounded-paper border-2 border-dashed border-primary bg-sheet/70 grid place-items-center font-display text-[18px]">
              Drop to place on the {areaTitle(data.blank, area).toLocaleLowerCase('en')}
            </div>
          )}
          {uploads.length > 0 && (
            <ul className="absolute left-3 bottom-3 w-96 grid gap-2" aria-label="Uploads">
              {uploads.map((upload) => (
                <li
                  key={upload.id}
                  className={`rounded-paper border bg-sheet px-3 py-2 text-small ${upload.error ? 'border-stop' : 'border-hairline'}`}
                >
                  <div className="flex justify-between gap-3">
                    <span className="font-medium truncate">{upload.name}</span>
                    {upload.error && (
                      <button type="button" className="text-muted hover:text-ink" onClick={() => dismiss(upload.id)}>
                        Dismiss
                      </button>
                    )}
                  </div>
                  {upload.error ? (
                    <p role="alert" className="text-stop">
                      {upload.error}
                    </p>
                  ) : (
                    <>
                      <progress
                        aria-label={`Upload of ${upload.name}`}
                        className="w-full h-1 accent-primary"
                        value={upload.share}
                        max={1}
                      />
                      <p className="text-tiny text-muted">
                        {upload.share < 1 ? `${Math.round(upload.share * 100)} % is there` : 'Processing …'}
                      </p>
                    </>
                  )}
                </li>
              ))}
            </ul>
          )}
        </div>
        <LayersPanel
          open={layersOpen}
          onArtwork={() => setShelfOpen(true)}
          onText={writeText}
          onOrnaments={() => setOrnamentsOpen(true)}
        />
      </div>
      <LayerBar />
      {ornamentsOpen && <Ornaments open onClose={() => setOrnamentsOpen(false)} />}
      {shelfOpen && (
        <Shelf open onClose={() => setShelfOpen(false)} onFiles={(files) => files.forEach((file) => void take(file))} />
      )}
    </div>
  );
}
