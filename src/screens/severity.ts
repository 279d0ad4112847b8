import type { Finding } from '@/core/findings/finding';

/** What a severity is called on screens. */
export const SEVERITY_WORDS: Record<Finding['severity'], string> = {
  stop: 'Must fix',
  warn: 'Warning',
  note: 'Note',
};
