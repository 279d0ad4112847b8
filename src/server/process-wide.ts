const holder = globalThis as { typicaProcessWide?: Map<string, unknown> };

/** One thing of a process, whichever copy of a module asks for it: the bundler loads modules once for pages and once for routes. */
export function processWide<T>(name: string, make: () => T): T {
  const all = (holder.typicaProcessWide ??= new Map<string, unknown>());
  if (!all.has(name)) all.set(name, make());
  return all.get(name) as T;
}
