'use client';

import { useState, type DragEvent } from 'react';

const hasFiles = (e: DragEvent): boolean => e.dataTransfer.types.includes('Files');

/** Files dropped on an element: what to spread onto it, and whether some are over it just now. What is dragged beside files is left alone. */
export function useFileDrop(onFiles: (files: readonly File[]) => void) {
  const [over, setOver] = useState(false);
  return {
    over,
    target: {
      onDragOver: (e: DragEvent) => {
        if (!hasFiles(e)) return;
        // Without this the browser leaves the page for the file.
        e.preventDefault();
        setOver(true);
      },
      onDragLeave: (e: DragEvent<HTMLElement>) => {
        // From one part of the element to another is not out of it.
        if (!e.currentTarget.contains(e.relatedTarget as Node | null)) setOver(false);
      },
      onDrop: (e: DragEvent) => {
        if (!hasFiles(e)) return;
        e.preventDefault();
        setOver(false);
        onFiles([...e.dataTransfer.files]);
      },
    },
  };
}
