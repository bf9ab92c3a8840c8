import { expect, it } from 'vitest';
import { materialOf } from './material';

it('a source with words is read, also when its file is kept; without words its file tells what it is', () => {
  const of = (text: string, mediaType: string | null) => materialOf({ text, line: { mediaType } });
  expect(of('Words.', null)).toBe('text');
  expect(of('Words.', 'application/pdf')).toBe('text');
  expect(of('', 'image/png')).toBe('picture');
  expect(of('', 'audio/mpeg')).toBe('recording');
  expect(of('', 'video/webm')).toBe('recording');
});
