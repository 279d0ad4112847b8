/** `npm run soak NAME`: what takes too long for bin/test. Each has a short twin there. Ends with 1 when something did not hold. */
const SOAKS: Record<string, () => Promise<{ default: () => Promise<boolean> }>> = {
  hostile: () => import('./hostile'),
  fairness: () => import('./fairness'),
  tabs: () => import('./tabs'),
  kill: () => import('./kill'),
  stop: () => import('./stop'),
  send: () => import('./send'),
  floors: () => import('./floors'),
  sync: () => import('./sync'),
};

async function main(name: string): Promise<number> {
  const soak = Object.hasOwn(SOAKS, name) ? SOAKS[name] : undefined;
  if (!soak) {
    process.stderr.write(`There is no soak “${name}”; there are ${Object.keys(SOAKS).join(', ')}.\n`);
    return 2;
  }
  return (await (await soak()).default()) ? 0 : 1;
}

void main(process.argv[2] ?? '').then((code) => process.exit(code));
