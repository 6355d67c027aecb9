import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['src/**/*.test.ts', 'src/**/*.test.tsx'],
    reporters: ['default', ['json', { outputFile: 'test-results/unit.json' }]],
  },
});
