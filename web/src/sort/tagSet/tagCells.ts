import type { Schemas } from '@/api/client';

type Tag = Pick<Schemas['Tag'], 'name' | 'definition' | 'isNot' | 'aliases' | 'settled' | 'scale' | 'colour'>;

// As WrittenNames and ScaleWords of the server write and read them.
const inPath = (name: string) => name.replace(/(?<=^| )(\\*)\/(?=$| )/g, '$1\\/');
const inList = (name: string) => name.replace(/[\\;]/g, '\\$&');
const inScale = (words: string) => words.replace(/[\\();]/g, '\\$&');

function scaleWords({ least, most, step, unit, lowLabel, highLabel }: NonNullable<Tag['scale']>): string {
  const counted = inScale(unit);
  const steps = step === 1 && !counted.startsWith('in steps of ') ? '' : ` in steps of ${step}`;
  const ends = lowLabel + highLabel === '' ? '' : ` (least: ${inScale(lowLabel)}; most: ${inScale(highLabel)})`;
  return `${least} to ${most}${steps}${counted && ` ${counted}`}${ends}`;
}

/** What stands in a cell of a tag; `path` is the names above it, from the top. */
export function inCell(tag: Tag, column: Schemas['TagColumn'], path: readonly string[]): string {
  switch (column) {
    case 'name':
      return tag.name;
    case 'under':
      return path.map(inPath).join(' / ');
    case 'definition':
      return tag.definition;
    case 'isNot':
      return tag.isNot;
    case 'aliases':
      return tag.aliases.map(inList).join('; ');
    case 'state':
      return tag.settled ? 'settled' : 'draft';
    case 'scale':
      return tag.scale ? scaleWords(tag.scale) : '';
    case 'colour':
      return tag.colour === null ? '' : String(tag.colour + 1);
  }
}
