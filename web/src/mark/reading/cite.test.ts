import { describe, expect, it } from 'vitest';
import { cite, wordsOf } from './cite';

describe('words that are handed on', () => {
  it('tell where they stand, as text and as rich text', () => {
    const { text, html } = cite({ words: 'a < b\nc', who: 'Wren', title: 'P02 <b>', place: '01:18', link: 'http://x/?a=1&b="2"' });
    expect(text).toBe('“a < b\nc”\n(Wren, P02 <b>, 01:18)');
    expect(html).toBe('<blockquote>a &lt; b<br>c</blockquote><p>(<a href="http://x/?a=1&amp;b=&quot;2&quot;">Wren, P02 &lt;b&gt;, 01:18</a>)</p>');
    expect(cite({ words: 'x', who: '', title: 'T', place: '', link: '' }).text).toBe('“x”\n(T)');
  });
  it('never hold what is masked, also where a mask is cut by an edge or lies over another', () => {
    const mask = (start: number, end: number, replacement: string) => ({ start, end, replacement });
    const text = '0123456789';
    expect(wordsOf(text, { start: 2, end: 8 }, [mask(6, 9, '[b]'), mask(0, 3, '[a]')])).toBe('[a]345[b]');
    expect(wordsOf(text, { start: 0, end: 10 }, [mask(2, 6, '[a]'), mask(4, 8, '[b]')])).toBe('01[a][b]89');
    expect(wordsOf(text, { start: 4, end: 6 }, [mask(0, 10, '[all]')])).toBe('[all]');
    expect(wordsOf(text, { start: 4, end: 6 }, [])).toBe('45');
  });
});
