import type { Blank } from '@/core/catalog/blank';
import type { ProductDocument } from '@/core/document/document';
import { bringsOf } from '@/core/findings/outcome';
import type { Remedy } from '@/core/findings/remedy';
import type { ArtworkSize, Finding, SetLettering } from '@/core/findings/finding';
import { findFindings } from '@/core/findings/findings';

/** What the checks look at; what has not changed since the last question is left out. */
export interface Question {
  readonly doc: ProductDocument;
  readonly blank?: Blank;
  readonly artworks?: { readonly [id: string]: ArtworkSize | undefined };
  readonly letterings?: { readonly [layerId: string]: SetLettering };
}

/** A finding with the sentences of the stops and warnings that its remedies would bring. */
export interface ForeseenFinding extends Finding {
  readonly brings: readonly string[];
  readonly alsoBrings: readonly string[];
}

export interface Answer {
  readonly findings: readonly ForeseenFinding[];
}

let blank: Blank;
let artworks: NonNullable<Question['artworks']> = {};
let letterings: NonNullable<Question['letterings']> = {};

self.onmessage = ({ data }: MessageEvent<Question>) => {
  blank = data.blank ?? blank;
  artworks = data.artworks ?? artworks;
  letterings = data.letterings ?? letterings;
  const checked = { doc: data.doc, blank, artworks, letterings };
  const findings = findFindings(data.doc, blank, artworks, letterings);
  const foresee = (finding: Finding, remedy: Remedy | undefined) =>
    remedy ? bringsOf(checked, findings, finding, remedy).map((one) => one.says) : [];
  const answer: Answer = {
    findings: findings.map((finding) => ({
      ...finding,
      brings: foresee(finding, finding.remedy),
      alsoBrings: foresee(finding, finding.also),
    })),
  };
  self.postMessage(answer);
};
