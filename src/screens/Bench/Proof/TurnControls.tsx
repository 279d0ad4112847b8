'use client';

import { RotateCcw, RotateCw } from 'lucide-react';
import { IconButton } from '@/ui/IconButton';
import { useDesk } from '../desk';
import { turned, turningSteps } from './view';

/** Turns the good in view by one step; nothing for what cannot be turned. */
export function TurnControls() {
  const { proof } = useDesk('proof');
  const steps = turningSteps(proof.shots, proof.shot);
  const { shot } = proof;
  if (steps.length < 2 || !shot) return null;
  const at = steps.findIndex((one) => one.id === shot.id);
  return (
    <span className="inline-flex items-center">
      <IconButton
        name="Turn to the left"
        title="Turn to the left, key Shift+T; or drag the picture"
        disabled={at <= 0}
        onClick={() => proof.setShot(turned(steps, shot, -1).id)}
      >
        <RotateCcw size={15} aria-hidden />
      </IconButton>
      <IconButton
        name="Turn to the right"
        title="Turn to the right, key T; or drag the picture"
        disabled={at >= steps.length - 1}
        onClick={() => proof.setShot(turned(steps, shot, 1).id)}
      >
        <RotateCw size={15} aria-hidden />
      </IconButton>
    </span>
  );
}
