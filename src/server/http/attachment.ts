/** The header by which a browser keeps an answer as a file of this name (RFC 6266, with the name as RFC 8187 has it). */
export function attachment(fileName: string): string {
  // What encodeURIComponent leaves as it is and the grammar of names does not allow.
  const name = encodeURIComponent(fileName.toWellFormed()).replace(
    /['()*]/g,
    (sign) => `%${sign.charCodeAt(0).toString(16).toUpperCase()}`,
  );
  return `attachment; filename*=UTF-8''${name}`;
}
