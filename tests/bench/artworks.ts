import sharp from 'sharp';

/** A square artwork with alpha as sellers bring it: shapes of flat color with soft edges, a gradient. */
export async function flatArtwork(side: number): Promise<Buffer> {
  const circles = Array.from(
    { length: 40 },
    (_, i) =>
      `<circle cx="${(i * 733) % 3000}" cy="${(i * 1291) % 3000}" r="${60 + i * 6}" fill="hsl(${i * 29},60%,50%)" fill-opacity="${i % 3 ? 1 : 0.8}"/>`,
  ).join('');
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 3000 3000" width="${side}" height="${side}"><defs><linearGradient id="g"><stop stop-color="#123f4c"/><stop offset="1" stop-color="#e5c98d"/></linearGradient></defs>${circles}<rect x="300" y="2200" width="2400" height="360" rx="60" fill="url(#g)"/></svg>`;
  return sharp(Buffer.from(svg), { limitInputPixels: false }).png().toBuffer();
}

/** Like a photograph: large soft forms, texture that is smooth to the eye, a little noise as a sensor has it; opaque, as JPEG of high quality. */
export async function photoArtwork(side: number): Promise<Buffer> {
  const noise = (width: number, sigma: number) =>
    sharp({
      create: {
        width,
        height: width,
        channels: 3,
        background: '#777',
        noise: { type: 'gaussian', mean: 128, sigma },
      },
    });
  const layer = async (width: number, sigma: number, blur: number) =>
    sharp(await noise(width, sigma).png().toBuffer())
      .blur(blur)
      .resize(side, side, { kernel: 'cubic' })
      .png({ compressionLevel: 1 })
      .toBuffer();
  const forms = await layer(60, 120, 2);
  return sharp(forms, { limitInputPixels: false })
    .composite([
      { input: await layer(600, 70, 1.5), blend: 'soft-light' },
      { input: await layer(side, 10, 0.8), blend: 'soft-light' },
    ])
    .jpeg({ quality: 95 })
    .toBuffer();
}
