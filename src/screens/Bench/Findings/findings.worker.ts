import type { WorkerAnswer } from '@/bench/worker-asker';
import type { Blank } from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';
import { bringsOf } from '@/core/findings/outcome';
import type { Remedy } from '@/core/findings/remedy';
import type { ArtworkSize, Finding, SetLettering } from '@/core/findings/finding';
import { findFindings } from '@/core/findings/findings';

/** The design that the checks look at. */
export interface FindingsQuestion {
  readonly doc: ProductDocument;
}

/** What most questions have in common; what has not changed since the last question is left out. */
export interface FindingsShared {
  readonly blank: Blank;
  readonly artworks: { readonly [id: string]: ArtworkSize | undefined };
  readonly letterings: { readonly [layerId: string]: SetLettering };
}

/** A finding with the sentences of the stops and warnings that its remedies would bring. */
export interface ForeseenFinding extends Finding {
  readonly brings: readonly string[];
  readonly alsoBrings: readonly string[];
}

let blank: Blank;
let artworks: FindingsShared['artworks'] = {};
let letterings: FindingsShared['letterings'] = {};

self.onmessage = ({ data }: MessageEvent<{ id: number } & FindingsQuestion & Partial<FindingsShared>>) => {
  blank = data.blank ?? blank;
  artworks = data.artworks ?? artworks;
  letterings = data.letterings ?? letterings;
  const checked = { doc: data.doc, blank, artworks, letterings };
  const findings = findFindings(data.doc, blank, artworks, letterings);
  const foresee = (finding: Finding, remedy: Remedy | undefined) =>
    remedy ? bringsOf(checked, findings, finding, remedy).map((one) => one.says) : [];
  const answer = findings.map((finding) => ({
    ...finding,
    brings: foresee(finding, finding.remedy),
    alsoBrings: foresee(finding, finding.also),
  }));
  self.postMessage({ id: data.id, answer } satisfies WorkerAnswer<readonly ForeseenFinding[]>);
};
