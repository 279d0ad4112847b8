/** A text as it stands in a LIKE: no sign of it is a wildcard. */
export const likely = (text: string): string => text.replace(/[\\%_]/g, '\\$&');
