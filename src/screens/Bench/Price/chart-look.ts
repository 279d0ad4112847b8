/** How all charts of prices look. */
export const AXIS = { stroke: 'var(--color-muted)', fontSize: 11, tickLine: false } as const;
export const STILL = { isAnimationActive: false } as const;
export const TIP = {
  background: 'var(--color-sheet)',
  border: '1px solid var(--color-ink)',
  borderRadius: 3,
  fontSize: 12,
  padding: '4px 8px',
} as const;
