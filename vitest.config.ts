import { availableParallelism } from 'node:os';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    // What the slowest test takes on a busy machine is no failure of what it tests.
    testTimeout: 30_000,
    // Both cores of the smallest machine: by itself it would leave one of two to others.
    maxWorkers: Math.max(2, availableParallelism() - 1),
    // Each file puts back what it changes: to read everything anew for each took half of all the time.
    isolate: false,
    expect: { poll: { timeout: 20_000 } },
    include: ['src/**/*.test.ts', 'src/**/*.test.tsx', 'scripts/**/*.test.ts'],
    reporters: ['default', ['json', { outputFile: 'test-results/unit.json' }]],
  },
});
