'use client';

import { useRef, useState } from 'react';
import { useDesk } from '../desk';
import { useLiveProof } from './use-proof';
import { turned, turningSteps } from './view';

/** Px of dragging sideways that turn a good by one step. */
const TURN_PX = 36;

/** The proof itself: the product as it is now, also while something is being dragged. Dragging it sideways turns what can be turned. */
export function ProofCanvas({ label, className = '' }: { label: string; className?: string }) {
  const { proof, save, revision } = useDesk('proof', 'save', 'revision');
  const { shot } = proof;
  const [canvas, setCanvas] = useState<HTMLCanvasElement | null>(null);
  const { current, lettersMissing, problem } = useLiveProof(shot, canvas);
  const steps = turningSteps(proof.shots, shot);
  const from = useRef<{ x: number; shot: NonNullable<typeof shot> } | null>(null);
  const settled = current && save !== 'saving';
  return (
    <>
      <canvas
        ref={setCanvas}
        role="img"
        aria-label={label}
        data-testid="proof"
        data-shot={shot?.id}
        data-revision={settled ? revision : ''}
        className={`size-full object-contain ${steps.length > 1 ? 'cursor-ew-resize touch-none' : ''} ${className}`}
        onPointerDown={(e) => {
          if (steps.length < 2 || !shot) return;
          e.currentTarget.setPointerCapture(e.pointerId);
          from.current = { x: e.clientX, shot };
        }}
        onPointerMove={(e) => {
          if (!from.current) return;
          const by = Math.round((e.clientX - from.current.x) / TURN_PX);
          const next = turned(steps, from.current.shot, by);
          if (next.id !== shot?.id) proof.setShot(next.id);
        }}
        onPointerUp={() => (from.current = null)}
        onPointerCancel={() => (from.current = null)}
      />
      {(save === 'saving' || lettersMissing) && (
        <span className="absolute left-2 top-2 rounded-paper bg-sheet/90 border border-hairline px-1.5 text-tiny text-muted">
          {lettersMissing ? '◔ its texts are on their way' : '◔ saving'}
        </span>
      )}
      {problem && (
        <p className="absolute inset-x-3 bottom-3 rounded-paper bg-sheet/90 px-2 py-1 text-small text-stop">
          The proof could not be drawn: {problem} Your design is kept; the next change tries again.
        </p>
      )}
    </>
  );
}
