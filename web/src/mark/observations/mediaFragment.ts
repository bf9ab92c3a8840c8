import type { Box, TimeRange } from './place';

/**
 * Parts of recordings and pictures in an address, as W3C's "Media Fragments URI 1.0 (basic)" (Recommendation, 25 September 2012) writes them:
 * #t=12.5,14 and #xywh=percent:10,80,20,10.
 */

/** Seconds, mm:ss or hh:mm:ss, each with a fraction (section 4.2.1); milliseconds, or null for what is none. */
function clockTime(text: string): number | null {
  const seconds = /^(\d+)(\.\d*)?$/.exec(text);
  if (seconds) return Math.round(Number(text) * 1000);
  const found = /^(?:(\d+):)?([0-5]\d):([0-5]\d(?:\.\d*)?)$/.exec(text);
  if (!found) return null;
  const [, hours = '0', minutes, rest] = found;
  return Math.round((Number(hours) * 3600 + Number(minutes) * 60 + Number(rest)) * 1000);
}

/** Names and values of a fragment, decoded; what cannot be decoded is left out (section 5.1.1). */
function pairs(hash: string): [string, string][] {
  return hash
    .replace(/^#/, '')
    .split('&')
    .flatMap((part) => {
      const at = part.indexOf('=');
      if (at < 1) return [];
      try {
        return [[decodeURIComponent(part.slice(0, at)), decodeURIComponent(part.slice(at + 1))] as [string, string]];
      } catch {
        return [];
      }
    });
}

/** The last of several that say the same kind of thing counts, where it is valid (section 5.1.1). */
const lastOf = <T>(hash: string, name: string, read: (value: string) => T | null) =>
  pairs(hash).reduce<T | null>((kept, [key, value]) => (key === name ? (read(value) ?? kept) : kept), null);

/** The range of time that a fragment names; an end that it leaves open is null. Null for none, or for one that cannot be. */
export const timeIn = (hash: string): { beginMs: number; endMs: number | null } | null =>
  lastOf(hash, 't', (value) => {
    const [from = '', to, ...more] = value.replace(/^npt:/, '').split(',');
    if (more.length > 0 || (from === '' && (to ?? '') === '')) return null;
    const [beginMs, endMs] = [from === '' ? 0 : clockTime(from), to === undefined ? null : clockTime(to)];
    if (beginMs === null || (to !== undefined && endMs === null) || (endMs !== null && endMs <= beginMs)) return null;
    return { beginMs, endMs };
  });

/** The part of a picture that a fragment names in percent, in ten-thousandths. Pixels are not told: they are those of a size that is not known. */
export const boxIn = (hash: string): Box | null =>
  lastOf(hash, 'xywh', (value) => {
    const found = /^percent:(\d+(?:\.\d+)?),(\d+(?:\.\d+)?),(\d+(?:\.\d+)?),(\d+(?:\.\d+)?)$/.exec(value);
    if (!found) return null;
    const [x, y, width, height] = found.slice(1).map((n) => Math.round(Number(n) * 100)) as [number, number, number, number];
    return width > 0 && height > 0 && x + width <= 10_000 && y + height <= 10_000 ? { x, y, width, height } : null;
  });

const number = (n: number, by: number) => String(Math.round(n) / by);

/** How an address names a range of time. */
export const timeFragment = ({ beginMs, endMs }: TimeRange) => `#t=${number(beginMs, 1000)},${number(endMs, 1000)}`;

/** How an address names a part of a picture. */
export const boxFragment = ({ x, y, width, height }: Box) => `#xywh=percent:${[x, y, width, height].map((n) => number(n, 100)).join(',')}`;
