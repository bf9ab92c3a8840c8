// @vitest-environment jsdom
import type { TagUse } from './tagLook';
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { TagLine } from './TagLine';
import { tagLooks } from './tagLook';

const triple = { observations: 1, sources: 1, people: 1, unattributed: 0 };
const inUse = (id: number, name: string): TagUse => ({
  tag: {
    id,
    name,
    studyId: null,
    parentId: null,
    colour: 1,
    definition: '',
    isNot: '',
    settled: true,
    scale: null,
    aliases: [],
    retired: false,
    members: null,
    version: 1,
  },
  breadth: { triple, outOf: 1, interval: null, strip: [1], against: [0], asked: [true], notReviewed: 0 },
  own: triple,
});
const tags = [inUse(1, 'queue'), inUse(2, 'freight left behind'), inUse(3, 'freight rules unclear')];
const scaled = inUse(4, 'effort');
tags.push({
  ...scaled,
  tag: { ...scaled.tag, definition: 'What it cost them.', scale: { least: 1, most: 5, step: 1, unit: '', lowLabel: '', highLabel: '' } },
});
const retired = inUse(5, 'weathered out');
tags.push({ ...retired, tag: { ...retired.tag, retired: true } });
const board = inUse(6, 'for the board');
tags.push({ ...board, tag: { ...board.tag, members: [3, 1] } });
const done = vi.fn();
const cancel = vi.fn();
let field: HTMLElement;

const key = (name: string, more = {}) => fireEvent.keyDown(field, { key: name, ...more });
const type = (value: string) => fireEvent.change(field, { target: { value } });

beforeEach(() => {
  done.mockClear();
  cancel.mockClear();
  render(<TagLine tags={tags} look={tagLooks(tags.map((t) => t.tag))} recent={[]} asksValues words="the box stayed" onDone={done} onCancel={cancel} />);
  field = screen.getByRole('combobox');
});
afterEach(cleanup);

describe('the tag line', () => {
  it('takes the first that fits on Enter', () => {
    type('fre');
    key('Enter');
    expect(done).toHaveBeenCalledWith([2], [], []);
  });
  it('takes several with commas', () => {
    type('rules');
    key(',');
    type('queue');
    key('Enter');
    expect(done).toHaveBeenCalledWith([3, 1], [], []);
  });
  it('makes a new draft when nothing is called that', () => {
    type('makes do');
    key('Enter');
    expect(done).toHaveBeenCalledWith([], ['makes do'], []);
  });
  it('makes a new draft before it takes letters that merely stand in order', () => {
    type('fbd');
    key('Enter');
    expect(done).toHaveBeenCalledWith([], ['fbd'], []);
  });
  it('makes a new one on Shift Enter although others fit', () => {
    type('freight');
    key('Enter', { shiftKey: true });
    expect(done).toHaveBeenCalledWith([], ['freight'], []);
  });
  it('offers no new tag for a name that exists in another case', () => {
    type('QUEUE');
    expect(screen.queryByText(/New draft tag/)).toBeNull();
  });
  it('offers a retired tag to whoever writes its whole name, and to nobody else', () => {
    type('weather');
    expect(screen.queryByRole('option', { name: /weathered out/ })).toBeNull();
    type('weathered out');
    key('Enter');
    expect(done).toHaveBeenCalledWith([5], [], []);
  });
  it('names a tag in their words with one key', () => {
    key('"');
    expect(field).toHaveProperty('value', 'the box stayed');
    key('Enter');
    expect(done).toHaveBeenCalledWith([], ['the box stayed'], []);
  });
  it('walks the list with arrows', () => {
    type('fre');
    key('ArrowDown');
    key('Enter');
    expect(done).toHaveBeenCalledWith([3], [], []);
  });
  it('marks without a tag on Enter alone, and takes the last chip back with Backspace', () => {
    type('queue');
    key(',');
    key('Backspace');
    key('Enter');
    expect(done).toHaveBeenCalledWith([], [], []);
  });
  it('makes a tag under another, with what it is, which may hold commas', () => {
    type('freight / box alone = the box crosses, its person does not');
    expect(screen.getByText(/New tag “box alone” under “freight”: the box crosses, its person does not/)).toBeTruthy();
    key(',');
    key('Enter');
    expect(done).toHaveBeenCalledWith([], ['freight / box alone = the box crosses, its person does not'], []);
  });
  it('asks the value of a tag with a scale in the same line, and takes none that is not on it', () => {
    type('effort');
    key('Enter');
    expect(done).not.toHaveBeenCalled();
    type('7');
    key('Enter');
    expect(done).not.toHaveBeenCalled();
    type('4');
    key('Enter');
    expect(done).toHaveBeenCalledWith([4], [], [[4, 4]]);
  });
  it('tells what the tag is that is pointed at', () => {
    type('effort');
    expect(screen.getByText('What it cost them.')).toBeTruthy();
  });
  it('leaves on Escape', () => {
    key('Escape');
    expect(cancel).toHaveBeenCalled();
  });

  it('offers the tags of a bundle whose name is typed, and gives one of them', () => {
    type('for the');
    expect(screen.getAllByRole('option').at(-1)!.textContent).toContain('bundle: choose of its 2 tags');
    key('ArrowUp');
    key('Enter');
    expect(done).not.toHaveBeenCalled();
    expect(screen.getAllByRole('option').map((o) => o.textContent)).toEqual([
      expect.stringContaining('queue'),
      expect.stringContaining('freight rules unclear'),
    ]);
    // Back to all tags, and there again.
    key('Escape');
    expect(cancel).not.toHaveBeenCalled();
    type('for the board');
    key('Enter');
    type('rules');
    key('Enter');
    expect(done).toHaveBeenCalledWith([3], [], []);
  });
});
