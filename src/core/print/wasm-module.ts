/** Bytes of a page of WebAssembly memory. */
export const PAGE = 65_536;

const compiled = new Map<string, WebAssembly.Module | null>();

/** The kernel in these base64 bytes, compiled once; null where this machine has no WebAssembly SIMD. */
export function compileKernel(base64: string): WebAssembly.Module | null {
  const have = compiled.get(base64);
  if (have !== undefined) return have;
  let built: WebAssembly.Module | null = null;
  try {
    built = new WebAssembly.Module(Uint8Array.from(atob(base64), (c) => c.charCodeAt(0)));
  } catch {
    // The same work is done in TypeScript then.
  }
  compiled.set(base64, built);
  return built;
}
