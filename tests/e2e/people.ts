import { expect, type Locator, type Page } from '@playwright/test';

/** Comes in as one of the demo's people; by the door of the page in the newcomer's story, and behind it everywhere else. */
export async function comeIn(page: Page, name = 'Ida Moss') {
  const { demoAccounts } = await (await page.request.get('/api/me')).json();
  await write(page, 'post', '/api/demo/sign-in', { accountId: demoAccounts.find((a: { name: string }) => a.name === name).id });
}

/** Writes behind the interface's back, as this page's person. */
export async function write(page: Page, method: 'post' | 'put', path: string, data: object) {
  const { pageToken } = await (await page.request.get('/api/me')).json();
  const answer = await page.request[method](path, { data, headers: { 'X-Vitrine-Token': pageToken } });
  expect(answer.ok(), await answer.text()).toBe(true);
  return answer.json();
}

/** The address of the demo's study. */
export async function demoStudy(page: Page): Promise<string> {
  const studies: { id: number; title: string }[] = await (await page.request.get('/api/studies')).json();
  return `/studies/${studies.find((s) => s.title === 'Boarding without a car')!.id}`;
}

/** Makes a study of one's own and opens it. */
export async function newStudy(page: Page, title: string) {
  const { id } = await write(page, 'post', '/api/studies', { title, purpose: '', method: '', researchQuestions: [] });
  await page.goto(`/studies/${id}`);
  await expect(page.getByRole('navigation', { name: 'Stages of the study' })).toBeVisible();
  return id as number;
}

/** Opens a text of a study of one's own for reading. */
export async function newText(page: Page, study: string, title: string, text: string) {
  const { id } = await write(page, 'post', '/api/studies', { title: study, purpose: '', method: '', researchQuestions: [] });
  const { step } = await write(page, 'post', `/api/studies/${id}/sources/paste`, { title, kind: 'interview', text, participantIds: [] });
  await page.goto(`/studies/${id}/mark?source=${step.id}`);
  await expect(reading(page)).toBeVisible();
}

export async function goTo(page: Page, stage: 'Gather' | 'Mark' | 'Sort' | 'Weigh' | 'Show') {
  await page.getByRole('navigation', { name: 'Stages of the study' }).getByRole('link', { name: stage }).click();
}

export async function paste(page: Page, title: string, text: string) {
  await page.getByRole('button', { name: 'Paste a text' }).first().click();
  await page.getByLabel('Title').fill(title);
  await page.getByLabel('Text', { exact: true }).fill(text);
  await page.getByRole('button', { name: 'Add the source' }).click();
}

/** Pastes a text and waits until it is there. */
export async function pasted(page: Page, title: string, text: string) {
  await paste(page, title, text);
  await expect(page.getByText(`Added the source “${title}”`).first()).toBeVisible();
}

/** Selects words of a turn with the mouse, as a person does: press, draw, release. */
export async function select(page: Page, words: string) {
  const turn = page.locator('[data-start]').filter({ hasText: words });
  await turn.scrollIntoViewIfNeeded();
  const ends = await turn.evaluate((element, wanted) => {
    // Bold and italic words are text nodes of their own.
    const point = (offset: number): [Node, number] => {
      const walker = document.createTreeWalker(element, NodeFilter.SHOW_TEXT);
      let left = offset;
      for (let node = walker.nextNode() as Text; ; node = walker.nextNode() as Text) {
        if (left <= node.length) return [node, left];
        left -= node.length;
      }
    };
    const at = element.textContent!.indexOf(wanted);
    const range = document.createRange();
    range.setStart(...point(at));
    range.setEnd(...point(at + wanted.length));
    const rects = [...range.getClientRects()];
    const [first, last] = [rects[0]!, rects.at(-1)!];
    return { from: { x: first.left + 0.5, y: first.top + first.height / 2 }, to: { x: last.right - 0.5, y: last.top + last.height / 2 } };
  }, words);
  await page.mouse.move(ends.from.x, ends.from.y);
  await page.mouse.down();
  await page.mouse.move((ends.from.x + ends.to.x) / 2, ends.to.y, { steps: 4 });
  await page.mouse.move(ends.to.x, ends.to.y, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByTestId('tag-line')).toBeVisible();
}

/** Drags with steps, as drag sensors expect. */
export async function drag(page: Page, from: Locator, to: Locator) {
  const [a, b] = [(await from.boundingBox())!, (await to.boundingBox())!];
  await page.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
  await page.mouse.down();
  await page.mouse.move(a.x + a.width / 2 + 12, a.y + a.height / 2 + 6, { steps: 3 });
  await page.mouse.move(b.x + b.width / 2, b.y + 24, { steps: 10 });
  await page.mouse.up();
}

export const labels = (page: Page) => page.locator('[data-testid="reading-scroll"] button').filter({ hasText: /\S/ });
export const reading = (page: Page) => page.getByRole('region', { name: /^Text of/ });

/** The page says that the server cannot be reached. */
export const cut = (page: Page) => expect(page.getByText('The server cannot be reached')).toBeVisible({ timeout: 15_000 });

/** It says so no more. */
export const open = (page: Page) => expect(page.getByText('The server cannot be reached')).toHaveCount(0, { timeout: 15_000 });

/** A text in blocks: a paragraph for each. */
export const rich = (...paragraphs: string[]) => ({
  version: 1,
  blocks: paragraphs.map((text) => ({ type: 'paragraph', content: [{ type: 'text', text }] })),
});
