'use client';

import { useState } from 'react';
import { addPictures, type PictureChoice } from '@/bench/picturing';
import { readyArtwork } from '@/screens/ready-artwork';
import { upload } from '@/ui/api';
import { useDesk } from '../desk';

/** Uploads a picture of the seller's own and adds it at the end. `taking` is the name of the one on its way. */
export function useOwnPicture(choice: PictureChoice, onTaken: (subject: string) => void) {
  const { edit } = useDesk('edit');
  const [problem, setProblem] = useState<string | null>(null);
  const [taking, setTaking] = useState<string | null>(null);
  const take = async (file: File) => {
    setProblem(null);
    setTaking(file.name);
    try {
      const { id } = await upload<{ id: string }>(
        `/photographs?name=${encodeURIComponent(file.name)}`,
        file,
        () => undefined,
      );
      await readyArtwork(id);
      edit('Add a picture', (d) => addPictures(d, choice, [{ shotId: null, imageId: id, color: null }]));
      onTaken(`own/${id}`);
    } catch (why) {
      setProblem((why as Error).message);
    } finally {
      setTaking(null);
    }
  };
  return { take, taking, problem };
}
