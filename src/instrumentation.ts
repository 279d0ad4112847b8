/** Runs once in the web process: lets SIGTERM end it although browsers hold event streams open. */
export async function register(): Promise<void> {
  if (process.env.NEXT_RUNTIME !== 'nodejs') return;
  const { openStreams } = await import('./server/http/sse');
  process.on('SIGTERM', () => {
    for (const close of [...openStreams()]) close();
  });
}
