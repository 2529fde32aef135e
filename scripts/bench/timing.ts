export async function timeOf(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return (performance.now() - began) / 1000;
}

export function megabytes(size: number): string {
  return `${(size / 1e6).toFixed(0)} MB`;
}

export function pause(ms = 50): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, ms));
}

export function seconds(ms: number): string {
  return `${(ms / 1000).toFixed(1)} s`;
}
