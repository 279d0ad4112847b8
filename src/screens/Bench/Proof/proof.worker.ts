import { LRUCache } from 'lru-cache';
import { artworksIn, LiveProof, type ProofScene } from '@/bench/live-proof';
import type { WorkerAnswer } from '@/bench/worker-asker';
import type { SeenAreas } from '@/core/listing/pictures';
import type { Blank } from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';
import type { InkedPath } from '@/core/paths/path';
import type { ArtworkSource } from '@/core/print/plan';
import type { Raster } from '@/core/print/pixels';
import { premultiply } from '@/core/print/pixels';
import type { FabricColor } from '@/core/shot/fabric';
import { ShotKernel } from '@/core/shot/kernel';
import { unpackPlanes } from '@/core/shot/pack';
import { fetchBytes } from '../worker-fetch';

export interface ProofShot {
  readonly id: string;
  /** The beginning of its content's hash. */
  readonly hash: string;
  readonly areas: SeenAreas;
}

/** Pictures that are asked for. */
export interface ProofQuestion {
  readonly shot: ProofShot;
  readonly areas: ProductDocument['areas'];
  /** One picture, or one for each of several colors. */
  readonly colors: readonly { readonly code: string | null; readonly fabric: FabricColor }[];
  /** Longest side of the pictures, px; as large as the proof when absent. */
  readonly sidePx?: number;
}

/** What most questions have in common; what has not changed since the last question is left out. */
export interface ProofShared {
  readonly blank: Blank;
  readonly artworks: readonly ArtworkSource[];
  readonly texts: { readonly [layerId: string]: readonly InkedPath[] };
}

type ProofAnswer = WorkerAnswer<readonly ImageBitmap[]>;

/** Shots that are held. */
const KEPT = 4;
const proofs = new Map<string, Promise<LiveProof>>();
/** Previews as pixels, for designs with many artworks: the least used go first. */
const rasters = new LRUCache<string, Promise<Raster>>({ max: 60 });
let blank: Blank;
let artworks: ReadonlyMap<string, ArtworkSource> = new Map();
let texts: ProofScene['texts'] = {};

function proofOf(shot: ProofShot): Promise<LiveProof> {
  const key = `${shot.id}/${shot.hash}`;
  const have = proofs.get(key);
  if (have) return have;
  const opening = (async () => {
    const answer = await fetchBytes(`/api/v1/shots/${shot.id}/planes?hash=${shot.hash}`);
    // Unpacked here, not by the connection: what stands between may take that upon itself, or not.
    const unpacked = new Response(answer.body!.pipeThrough(new DecompressionStream('gzip')));
    return new LiveProof(new ShotKernel(unpackPlanes(new Uint8Array(await unpacked.arrayBuffer())), { step: 4 }));
  })();
  proofs.set(key, opening);
  opening.catch(() => proofs.delete(key));
  while (proofs.size > KEPT) proofs.delete(proofs.keys().next().value!);
  return opening;
}

/** An artwork's preview as pixels. */
function rasterOf({ id, sha256 }: ArtworkSource): Promise<Raster> {
  const have = rasters.get(sha256);
  if (have) return have;
  const reading = (async () => {
    const answer = await fetchBytes(`/api/v1/artwork/${id}/preview`);
    const bitmap = await createImageBitmap(await answer.blob());
    const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
    const context = canvas.getContext('2d', { willReadFrequently: true })!;
    context.drawImage(bitmap, 0, 0);
    const { data } = context.getImageData(0, 0, bitmap.width, bitmap.height);
    const pixels = new Uint8Array(data.buffer);
    premultiply(pixels);
    return { widthPx: bitmap.width, heightPx: bitmap.height, data: pixels };
  })();
  rasters.set(sha256, reading);
  reading.catch(() => rasters.delete(sha256));
  return reading;
}

async function draw({ shot, areas, colors, sidePx }: ProofQuestion): Promise<ImageBitmap[]> {
  const scene: ProofScene = { areas, blank, shot, artworks, texts };
  const opening = proofOf(shot);
  // Read beside the shot's planes, and kept: what fails is told below.
  const needed = colors.map(({ code }) => artworksIn(scene, code));
  for (const artwork of needed.flat()) rasterOf(artwork).catch(() => undefined);
  const proof = await opening;
  const pictures: ImageBitmap[] = [];
  for (const [i, { code, fabric }] of colors.entries()) {
    for (const artwork of needed[i]!)
      if (!proof.holds(artwork.sha256)) proof.hold(artwork.sha256, await rasterOf(artwork));
    const pixels = new Uint8ClampedArray(proof.draw(scene, code, fabric));
    const image = new ImageData(pixels, proof.widthPx, proof.heightPx);
    const scale = sidePx ? sidePx / Math.max(proof.widthPx, proof.heightPx) : 1;
    pictures.push(
      await (scale < 1
        ? createImageBitmap(image, {
            resizeWidth: Math.round(proof.widthPx * scale),
            resizeHeight: Math.round(proof.heightPx * scale),
            resizeQuality: 'high',
          })
        : createImageBitmap(image)),
    );
  }
  return pictures;
}

// One after the other, in the order in which they were asked: a kernel holds one design at a time.
let last = Promise.resolve();
self.onmessage = ({ data }: MessageEvent<{ id: number } & ProofQuestion & Partial<ProofShared>>) => {
  last = last.then(async () => {
    blank = data.blank ?? blank;
    if (data.artworks) artworks = new Map(data.artworks.map((artwork) => [artwork.id, artwork]));
    texts = data.texts ?? texts;
    try {
      const pictures = await draw(data);
      const answer: ProofAnswer = { id: data.id, answer: pictures };
      self.postMessage(answer, { transfer: pictures as unknown as Transferable[] });
    } catch (error) {
      const answer: ProofAnswer = { id: data.id, problem: (error as Error).message };
      self.postMessage(answer);
    }
  });
};
