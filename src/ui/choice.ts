export interface Choice<T extends string> {
  readonly value: T;
  readonly name: string;
}

export const SELECT_BUTTON =
  'inline-flex items-center gap-1 min-h-6 text-left text-small leading-tight border-b border-edge hover:border-muted';
