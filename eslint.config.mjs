import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import regexp from 'eslint-plugin-regexp';
import ts from 'typescript-eslint';
import { ownLines } from './tools/own-lines.mjs';

export default ts.config(
  {
    ignores: [
      'dist/',
      'node_modules/',
      '.satchel*/',
      '.scratch/',
      'test-results/',
      'playwright-report/',
      'web/public/',
    ],
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  {
    plugins: { house: { rules: { 'own-lines': ownLines } } },
    rules: {
      // A formatter breaks lines at 100: what it cannot break is a string, a template or a table.
      'max-len': [
        'error',
        {
          code: 140,
          ignoreStrings: true,
          ignoreTemplateLiterals: true,
          ignoreRegExpLiterals: true,
          ignoreComments: true,
        },
      ],
      'max-lines': ['error', { max: 500, skipBlankLines: true, skipComments: true }],
      'house/own-lines': ['error', 60],
      'max-params': ['error', 6],
      '@typescript-eslint/no-non-null-assertion': 'off',
      // What is left out of a rest is named and not used.
      '@typescript-eslint/no-unused-vars': ['error', { ignoreRestSiblings: true }],
      'no-console': 'error',
    },
  },
  {
    // Text from outside is matched in a time that grows with its length, not faster.
    files: ['{core,contracts,server,web}/**'],
    ignores: ['**/*.test.{ts,tsx}'],
    plugins: { regexp },
    rules: {
      'regexp/no-super-linear-backtracking': ['error', { report: 'potential' }],
      'regexp/no-super-linear-move': ['error', { report: 'potential', ignoreSticky: true }],
    },
  },
  {
    files: ['web/**'],
    ...hooks.configs.flat.recommended,
    rules: {
      ...hooks.configs.flat.recommended.rules,
      'react-hooks/incompatible-library': 'off',
    },
  },
  {
    // The same song and settings give the same result, wherever and whenever: no clock, no chance, no platform.
    files: ['core/**', 'demo/**'],
    ignores: ['**/*.test.{ts,tsx}'],
    rules: {
      'no-restricted-globals': [
        'error',
        'Date',
        'performance',
        'process',
        'window',
        'document',
        'crypto',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'Chance is a seed in the settings.' },
      ],
      'no-restricted-imports': ['error', { patterns: ['node:*'] }],
    },
  },
  {
    files: [
      'tools/**',
      'tests/**',
      '**/*.test.{ts,tsx}',
      'server/index.ts',
      '*.mjs',
      '.dependency-cruiser.mjs',
    ],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        Buffer: 'readonly',
        AbortController: 'readonly',
        setTimeout: 'readonly',
        setInterval: 'readonly',
        clearTimeout: 'readonly',
        fetch: 'readonly',
        performance: 'readonly',
        URL: 'readonly',
        FormData: 'readonly',
        Blob: 'readonly',
        TextEncoder: 'readonly',
        TextDecoder: 'readonly',
      },
    },
    rules: { 'no-console': 'off', 'house/own-lines': 'off' },
  },
  {
    files: ['**/*.test.{ts,tsx}', 'tests/**'],
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "Property[key.name='numRuns'] > Literal[value>10]",
          message:
            'How many random runs there are is scaled: scaleRuns(600), tests/support/scale.ts.',
        },
        {
          selector: "CallExpression[callee.property.name='waitForTimeout']",
          message: 'Wait for what is to come, or for frames: tests/browser/settled.ts.',
        },
      ],
    },
  },
  {
    files: ['{core,contracts,demo,web}/**/*.test.{ts,tsx}'],
    rules: {
      'no-restricted-properties': [
        'error',
        {
          object: 'performance',
          property: 'now',
          message: 'No unit test reads a clock: tests/support/cost.ts compares costs.',
        },
      ],
    },
  },
  // Tables, read line by line.
  {
    files: [
      'core/problems/sentences.ts',
      'core/instruments/*.ts',
      'core/guessing/model.ts',
      'core/guessing/names.ts',
      'core/smf/worked-examples.ts',
      'demo/score.ts',
    ],
    rules: { 'max-len': 'off' },
  },
);
