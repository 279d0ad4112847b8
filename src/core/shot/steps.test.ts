import { describe, expect, it } from 'vitest';
import { packSteps, stepOfLight, unpackSteps } from './steps';

describe('light in steps', () => {
  it('lies evenly for the eye: a half of the steps is 21.8 % of the light', () => {
    // 0.5 ^ 2.2, by hand.
    expect(unpackSteps(Uint16Array.of(128), 1, 256, 1)[0]! / 65535).toBeCloseTo(0.2176, 3);
    expect(stepOfLight(1, 383)).toBe(383);
    expect(stepOfLight(0, 383)).toBe(0);
  });

  it('comes back within half a step, in gray and in color, beyond 1 too', () => {
    const light = Float32Array.from({ length: 300 }, (_, i) => ((i * 7919) % 300) / 200);
    for (const channels of [1, 3] as const) {
      const back = unpackSteps(packSteps(light, channels, 320), channels, 320, 1.5);
      for (let i = 0; i < light.length; i += 1) {
        const value = (back[i]! / 65535) * 1.5;
        expect(Math.abs(value ** (1 / 2.2) - light[i]! ** (1 / 2.2)) * 320).toBeLessThan(0.52);
      }
    }
  });

  it('cuts light that is brighter than its scale', () => {
    expect(unpackSteps(packSteps(Float32Array.of(2), 1, 100), 1, 100, 1)[0]).toBe(65535);
  });
});
