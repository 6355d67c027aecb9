import tseslint from 'typescript-eslint';
import reactHooks from 'eslint-plugin-react-hooks';

export default tseslint.config(
  { ignores: ['dist/', 'node_modules/', '.astro/', '.foothill*/', 'test-results/', 'playwright-report/'] },
  ...tseslint.configs.recommended,
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      'no-console': 'error',
      eqeqeq: ['error', 'always', { null: 'ignore' }],
      'max-lines': ['warn', { max: 400, skipBlankLines: true }],
    },
  },
  {
    // A promise that nobody waits for fails where nobody looks.
    files: ['src/**/*.{ts,tsx}', 'tests/**/*.ts', 'bench/**/*.ts'],
    languageOptions: { parserOptions: { project: './tsconfig.json', tsconfigRootDir: import.meta.dirname } },
    rules: { '@typescript-eslint/no-floating-promises': 'error' },
  },
  { files: ['scripts/**', 'bench/**', 'src/sim/main.ts'], rules: { 'no-console': 'off' } },
  {
    files: ['src/views/**/*.{ts,tsx}', 'src/ui/**/*.{ts,tsx}'],
    plugins: { 'react-hooks': reactHooks },
    rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' },
  },
  {
    // The core computes; it has no clock, no randomness and no surroundings of its own.
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'window',
        'document',
        'process',
        'performance',
        'setTimeout',
        'setInterval',
        'fetch',
        'Buffer',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now', message: 'Time is a parameter in the core.' },
        { object: 'Math', property: 'random', message: 'The core does not throw dice.' },
      ],
    },
  },
);
