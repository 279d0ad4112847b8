import type { Design, Put } from './designs';
import type { Good } from './goods';
import { badge, disc, landscape, picture } from './pictures';

/** Designs as careful sellers make them: of these nothing may be said that asks for something. */
export function goodDesigns(): Design[] {
  const designs: Design[] = [];
  const add = (name: string, good: Good, layers: readonly Put[], both = false) =>
    designs.push({ kind: 'good', name, good, layers, both, must: [] });
  const inks = ['#ffffff', '#f3ead6', '#f6b73c', '#9cc7e6', '#f4d3cf'];
  const darks = ['#182a4a', '#1a1c20', '#6f1f2b', '#1f4d38', '#33261c'];
  const darkCloth = ['#2d4a53', '#1f2226', '#182a4a', '#5a2a2a', '#24402f'];
  const paleCloth = ['#ffffff', '#f3ead6', '#f4d3cf', '#dfe8ee', '#f4ecc4'];
  const motto = (fill: string, y: number): Put => ({
    text: { text: 'EBB & FLOOD\nest. 1987', fill, sizeMm: 16 },
    x: 150,
    y,
    w: 180,
  });
  for (let i = 0; i < 5; i += 1) {
    const [light, dark] = [inks[i]!, darks[i]!];
    const arts = [disc(light), badge(light, '#d2342a', light)];

    const darkArts = [disc(dark), badge(dark, '#f3ead6', '#d2342a')];
    for (const j of [0, 1]) {
      // A motif with words under it: on dark and on pale cloth, small and large, on the chest and the whole front, in one color and several, in two sizes.
      for (const w of [90, 180, 250]) {
        add(
          `motif ${w} mm on dark cloth ${i}/${j}`,
          { technique: 'direct-to-garment', colors: [darkCloth[i]!], otherMm: [340, 440] },
          [{ art: arts[j]!, x: 150, y: 150, w }, motto(light, 330)],
          true,
        );
        add(`motif ${w} mm on pale cloth ${i}/${j}`, { technique: 'direct-to-garment', colors: [paleCloth[i]!] }, [
          { art: darkArts[j]!, x: 150, y: 150, w },
          motto(dark, 330),
        ]);
      }
      add(`on three pale colors ${i}/${j}`, { technique: 'direct-to-garment', colors: paleCloth.slice(0, 3) }, [
        { art: darkArts[0]!, x: 150, y: 200, w: 200 },
      ]);
      // Sewn, UV and dyed on pale goods.
      add(`sewn ${i}/${j}`, { technique: 'embroidery', widthMm: 120, heightMm: 60, colors: [paleCloth[i]!] }, [
        { art: darkArts[0]!, x: 30, y: 30, w: 36 },
        {
          text: { text: 'COX', fill: dark, style: 'bold', sizeMm: 20, boxWidthMm: 60, boxHeightMm: 30 },
          x: 80,
          y: 30,
          w: 60,
        },
      ]);
      add(`dyed on white ${i}/${j}`, { technique: 'sublimation', widthMm: 200, heightMm: 90 }, [
        { art: darkArts[j]!, x: 60, y: 45, w: 60 },
        { text: { text: 'Tideline', fill: dark, sizeMm: 14, boxWidthMm: 80, boxHeightMm: 24 }, x: 145, y: 45, w: 80 },
      ]);
      add(`by UV ${i}/${j}`, { technique: 'uv', widthMm: 90, heightMm: 90, colors: [paleCloth[i]!] }, [
        { art: darkArts[j]!, x: 45, y: 45, w: 70 },
      ]);
      // Paper: a picture over all of it, with words on it, or a motif with room around.
      add(
        `a full poster ${i}/${j}`,
        { technique: 'giclee', widthMm: 300, heightMm: 200, bleedMm: 3, otherMm: [450, 300] },
        [{ art: landscape(), x: 150, y: 100, w: 312 + 4 * i, fit: 'fill' }],
        true,
      );
      add(`a full poster with words ${i}/${j}`, { technique: 'giclee', widthMm: 300, heightMm: 200, bleedMm: 3 }, [
        { art: landscape(), x: 150, y: 100, w: 312 },
        {
          text: { text: 'RIVER', fill: '#1a1c20', sizeMm: 26, boxWidthMm: 160, boxHeightMm: 40 },
          x: 150,
          y: 30,
          w: 160,
        },
      ]);
      add(`a motif on paper ${i}/${j}`, { technique: 'giclee', widthMm: 300, heightMm: 400, bleedMm: 3 }, [
        { art: darkArts[j]!, x: 150, y: 180, w: 200 },
        motto(dark, 330),
      ]);
      add(`a sheet of stickers ${i}/${j}`, { technique: 'giclee', widthMm: 150, heightMm: 105, bleedMm: 2 }, [
        { art: darkArts[0]!, x: 40, y: 52, w: 50 },
        { art: darkArts[1]!, x: 110, y: 52, w: 50 },
      ]);
    }
    // A picture with a white ground on paper, a band around a mug, and a pennant that is covered.
    const drawn = picture(
      `<rect width="1000" height="667" fill="#fff"/><circle cx="350" cy="330" r="190" fill="${dark}"/><rect x="600" y="180" width="240" height="300" fill="#d2342a"/>`,
      { height: 667 },
    );
    add(`a drawing on white ${i}`, { technique: 'giclee', widthMm: 300, heightMm: 200, bleedMm: 3 }, [
      { art: drawn, x: 150, y: 100, w: 312 },
    ]);
    add(`a band around a mug ${i}`, { technique: 'sublimation', widthMm: 220, heightMm: 90 }, [
      { art: landscape(300), x: 110, y: 45, w: 228, fit: 'fill' },
    ]);
    add(
      `a covered pennant ${i}`,
      { technique: 'uv', widthMm: 300, heightMm: 200, outline: 'M 0 0 L 300 100 L 0 200 Z', colors: ['#ffffff'] },
      [{ art: landscape(), x: 150, y: 100, w: 306 }],
    );
  }
  return designs;
}
