import { env } from 'node:process';

import js from '@eslint/js';
import { createTypeScriptImportResolver } from 'eslint-import-resolver-typescript';
import { importX } from 'eslint-plugin-import-x';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

// Who may use whom: rooms do not reach into each other, what is below a room knows no room, and only the shell puts rooms together.
const rooms = ['gather', 'mark', 'sort', 'weigh', 'show'];
const below = ['parts', 'api', 'shared', 'trail', 'access', 'search'];
const zone = (target, from) => ({ target: `src/${target}`, from: from.map((f) => `src/${f}`), message: 'docs/architecture.md says who may use whom.' });
const zones = [
  ...rooms.map((room) => zone(room, [...rooms.filter((r) => r !== room), 'shell', 'access', 'search'])),
  ...below.map((folder) => zone(folder, [...rooms, 'shell'])),
  zone('parts', ['shared', 'trail', 'access', 'search']),
  zone('api', ['parts', 'shared', 'trail', 'access', 'search']),
];

// The rules that translate each component take three quarters of the time: npm run check has them, ./vitrine test does without.
const whole = env.VITRINE_LINT === 'whole';

export default ts.config(
  { ignores: ['dist', 'src/api/schema.d.ts'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  whole
    ? hooks.configs.flat['recommended-latest']
    : { plugins: { 'react-hooks': hooks }, rules: { 'react-hooks/rules-of-hooks': 'error', 'react-hooks/exhaustive-deps': 'error' } },
  // The quick ones do not know what is let be in the whole.
  { linterOptions: { reportUnusedDisableDirectives: whole ? 'error' : 'off' } },
  {
    files: ['src/**'],
    plugins: { 'import-x': importX },
    settings: { ...importX.flatConfigs.typescript.settings, 'import-x/resolver-next': [createTypeScriptImportResolver({ project: './tsconfig.json' })] },
    rules: {
      'import-x/no-restricted-paths': ['error', { basePath: import.meta.dirname, zones }],
      'import-x/no-cycle': ['error', { ignoreExternal: true }],
      'import-x/no-duplicates': 'error',
    },
  },
  {
    // The design system draws what it is given; it fetches nothing.
    files: ['src/parts/**'],
    rules: {
      '@typescript-eslint/no-restricted-imports': ['error', { patterns: [{ group: ['@/api/*', '@tanstack/react-query'], allowTypeImports: true }] }],
    },
  },
);
