'use client';

import { useState } from 'react';
import { toast } from '@/ui/toast';
import { changeLayer } from '@/bench/placing';
import { isAcceptable, type Finding } from '@/core/findings/finding';
import { remedied, remedyName, withArtwork, type Derivation, type Remedy } from '@/core/findings/remedy';
import { ownEntry } from '@/core/own-entry';
import { Button } from '@/ui/Button';
import { useDesk } from '../desk';
import { derived } from './derive';
import { useAcceptances } from './use-findings';
import { SEVERITY_WORDS } from '@/screens/severity';
import { dayAndTime } from '@/ui/when';

const RULES = { stop: 'border-stop', warn: 'border-caution', note: 'border-hairline' } as const;
const WORDS = { stop: 'text-stop', warn: 'text-caution', note: 'text-muted' } as const;

/** What the checks say: each a sentence with its severity, what can be done about it, and for a warning whether someone took it upon themselves. */
export function FindingList() {
  const desk = useDesk('findings', 'goTo', 'setArea', 'select', 'save');
  const acceptances = useAcceptances();
  const saved = desk.save === 'saved';
  return (
    <ul aria-label="Findings">
      {desk.findings.map((finding) => {
        const accepted = acceptances.of(finding);
        return (
          <li key={finding.id} className="border-t border-hairline pb-1">
            <button
              type="button"
              onClick={() => {
                desk.goTo('artwork');
                desk.setArea(finding.areaKey, finding.spot?.geometryId);
                desk.select(finding.layerId);
              }}
              className={`flex gap-2.5 w-full text-left text-small border-l-[3px] pl-2 py-1.5 my-px ${RULES[accepted ? 'note' : finding.severity]}`}
            >
              <span className={`w-14 shrink-0 ${WORDS[accepted ? 'note' : finding.severity]}`}>
                {SEVERITY_WORDS[finding.severity]}
              </span>
              <span className={accepted ? 'text-muted' : undefined}>{finding.says}</span>
            </button>
            <span className="flex flex-wrap items-baseline gap-x-3.5 ml-[77px] text-small">
              {finding.remedy && !accepted && (
                <RemedyButton finding={finding} remedy={finding.remedy} brings={finding.brings} />
              )}
              {finding.also && !accepted && (
                <RemedyButton finding={finding} remedy={finding.also} brings={finding.alsoBrings} />
              )}
              {isAcceptable(finding) && !accepted && (
                <Button
                  kind="quiet"
                  disabled={!saved}
                  onClick={() => acceptances.set(finding, true).catch((e: Error) => toast(e.message))}
                >
                  Accept
                </Button>
              )}
              {accepted && (
                <>
                  <span className="text-tiny text-muted">
                    accepted by {accepted.by}, {dayAndTime(accepted.at)}
                  </span>
                  <Button
                    kind="quiet"
                    onClick={() => acceptances.set(finding, false).catch((e: Error) => toast(e.message))}
                  >
                    Withdraw
                  </Button>
                </>
              )}
            </span>
          </li>
        );
      })}
    </ul>
  );
}

function RemedyButton({
  finding: { areaKey, layerId },
  remedy,
  brings,
}: {
  finding: Finding;
  remedy: Remedy;
  /** What it would bring, told before it is done. */
  brings: readonly string[];
}) {
  const desk = useDesk('artworks', 'addArtwork', 'edit', 'designed');
  const [making, setMaking] = useState(false);
  const derive = async (artworkId: string, derivation: Derivation) => {
    setMaking(true);
    try {
      const old = desk.artworks.find((artwork) => artwork.id === artworkId)?.facts;
      const artwork = await derived(artworkId, derivation);
      desk.addArtwork(artwork);
      const kept = derivation.kind === 'trim' ? (old?.visible ?? undefined) : undefined;
      desk.edit(remedyName(remedy), (doc) =>
        changeLayer(doc, areaKey, layerId, (layer) =>
          // Someone may have put in another artwork while this one was made.
          old && layer.kind === 'artwork' && layer.artworkId === artworkId
            ? withArtwork(layer, artwork.id, old.heightPx / old.widthPx, kept)
            : layer,
        ),
      );
    } catch (error) {
      toast((error as Error).message);
    } finally {
      setMaking(false);
    }
  };
  return (
    <span>
      <Button
        kind="quiet"
        disabled={making}
        onClick={() => {
          const layer = ownEntry(ownEntry(desk.designed.areas, areaKey)?.layers, layerId);
          if (remedy.kind === 'derive' && layer?.kind === 'artwork') return void derive(layer.artworkId, remedy.derive);
          desk.edit(remedyName(remedy), (doc) => remedied(doc, areaKey, layerId, remedy));
        }}
      >
        {making ? '◔ being made' : remedyName(remedy)}
      </Button>
      {brings.length > 0 && <span className="block text-tiny text-muted">also causes {brings.join(' ')}</span>}
    </span>
  );
}
