import js from '@eslint/js';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

const rooms = ['gather', 'mark', 'sort', 'weigh', 'show'];

// Rooms do not reach into each other; parts and api know no room; only the shell puts rooms together.
const borders = [
  ...rooms.map((room) => ({
    files: [`src/${room}/**`],
    rules: { 'no-restricted-imports': ['error', { patterns: [...rooms.filter((r) => r !== room), 'shell'].map((r) => `@/${r}/*`) }] },
  })),
  {
    files: ['src/parts/**', 'src/api/**'],
    rules: { 'no-restricted-imports': ['error', { patterns: [...rooms, 'shell'].map((r) => `@/${r}/*`) }] },
  },
];

export default ts.config(
  { ignores: ['dist', 'src/api/schema.d.ts'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  hooks.configs.flat['recommended-latest'],
  ...borders,
);
