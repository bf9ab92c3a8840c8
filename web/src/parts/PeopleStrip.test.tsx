// @vitest-environment jsdom
import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import { PeopleStrip } from './PeopleStrip';

afterEach(cleanup);
const people = [
  { id: 11, pseudonym: 'Alder' },
  { id: 12, pseudonym: 'Wren' },
  { id: 13, pseudonym: 'Sorrel' },
];
const breadth = { strip: [0, 3, 0], against: [0, 0, 1], asked: [false, true, true] };

it('says in words what its cells show', () => {
  render(<PeopleStrip people={people} breadth={breadth} />);
  expect(screen.getByRole('img').getAttribute('aria-label')).toBe('People: Alder: not asked, or not read yet; Wren: 3 observations; Sorrel: 1 contradicting');
});

it('opens a person by the mouse, and by arrow keys and Enter', () => {
  const pick = vi.fn();
  render(<PeopleStrip people={people} breadth={breadth} onPick={pick} />);
  const strip = screen.getByRole('button');
  fireEvent.click(screen.getByTitle(/Sorrel/), { detail: 1 });
  expect(pick).toHaveBeenLastCalledWith(13);
  fireEvent.keyDown(strip, { key: 'ArrowRight' });
  fireEvent.keyDown(strip, { key: 'ArrowRight' });
  expect(strip.getAttribute('aria-label')).toBe('Wren: 3 observations');
  fireEvent.click(strip, { detail: 0 });
  expect(pick).toHaveBeenLastCalledWith(12);
});

it('opens everyone when no cell is meant', () => {
  const pick = vi.fn();
  render(<PeopleStrip people={people} breadth={breadth} onPick={pick} />);
  fireEvent.click(screen.getByRole('button'), { detail: 0 });
  expect(pick).toHaveBeenCalledWith(null);
});

it('leaves out of a large study those whom nobody has begun to read, and keeps a dot for who was not asked', () => {
  const large = Array.from({ length: 50 }, (_, i) => ({ id: i, pseudonym: `R${i}`, begun: i < 3 }));
  render(
    <PeopleStrip people={large} breadth={{ strip: large.map((_, i) => (i === 1 ? 2 : 0)), against: large.map(() => 0), asked: large.map((_, i) => i < 2) }} />,
  );
  expect(screen.getByRole('img').querySelectorAll('[data-person]')).toHaveLength(3);
  expect(screen.getByTitle('R2: not asked, or not read yet')).toBeTruthy();
});

it('draws many people in one case, names a few, and walks along those who say something', () => {
  const many = Array.from({ length: 400 }, (_, i) => ({ id: i, pseudonym: `R${i}` }));
  const strip = many.map((_, i) => (i % 20 === 3 ? 1 : 0));
  const pick = vi.fn();
  render(<PeopleStrip people={many} breadth={{ strip, against: many.map(() => 0), asked: many.map(() => true) }} onPick={pick} />);
  const button = screen.getByRole('button');
  expect(button.querySelectorAll('g')).toHaveLength(20);
  expect(button.getAttribute('aria-label')).toMatch(/^People: R3: 1 observation;.*; and 8 more$/);
  fireEvent.keyDown(button, { key: 'ArrowRight' });
  fireEvent.keyDown(button, { key: 'ArrowRight' });
  expect(button.getAttribute('aria-label')).toBe('R23: 1 observation');
});
