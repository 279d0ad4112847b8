/** Where bytes lie, by the SHA-256 of their content. Knows nothing of who refers to them; that is the database's. */
export interface BlobFiles {
  /** Puts bytes under their hash; putting the same bytes again is harmless. */
  put(sha256: string, bytes: Uint8Array): Promise<void>;
  /** Moves a finished file in under its hash; the file is gone from where it was. */
  take(sha256: string, file: string): Promise<void>;
  /** Throws a TypicaError `blob-missing` when it is not there. */
  get(sha256: string): Promise<Buffer>;
  /** A readable stream of the bytes; throws `blob-missing`. */
  stream(sha256: string): Promise<ReadableStream<Uint8Array>>;
  /** Makes the bytes a file of this name, without copying them where the disk can; throws `blob-missing`. The file is not to be written to. */
  link(sha256: string, file: string): Promise<void>;
  has(sha256: string): Promise<boolean>;
  /** Takes bytes away; what is not there is no error. */
  remove(sha256: string): Promise<void>;
}
