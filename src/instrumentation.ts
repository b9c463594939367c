export async function register(): Promise<void> {
  if (process.env['NEXT_RUNTIME'] !== 'nodejs') return;
  const { boot } = await import('./server/boot');
  await boot();
}
