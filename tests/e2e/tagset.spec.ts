import { expect, test } from './demo';
import { comeIn, newText, select, write } from './people';

const talk = 'Wren: A neighbour rang me. The man in the shop told my sister. The screen said nothing.';

test('look-alikes are found, merged with what happens shown first, and come apart again with one undo', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'LookAlikes', 'P01', talk);
  const [, study, source] = /studies\/(\d+)\/mark\?source=(\d+)/.exec(page.url())!;
  const mark = (words: string, tag: string) =>
    write(page, 'post', `/api/sources/${source}/observations`, {
      anchor: { kind: 'text', start: talk.indexOf(words), end: talk.indexOf(words) + words.length },
      tagIds: [],
      newTags: [tag],
    });
  await mark('A neighbour rang me.', 'rung up by somebody');
  await mark('The man in the shop told my sister.', 'somebody rung up');
  await mark('The screen said nothing.', 'silent screens');
  await page.goto('/tags/look-alikes');
  const pair = page.getByRole('list', { name: 'Pairs of tags' }).getByRole('listitem').filter({ hasText: 'rung up by somebody' });
  await expect(pair).toContainText('the same words, in other forms or another order');
  await expect(pair).toContainText('The man in the shop told my sister.');
  await pair.click();
  await page.keyboard.press('m');
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('is then on 2 observations in LookAlikes');
  await dialog.getByRole('radio').nth(1).check();
  await dialog.getByLabel('What it is', { exact: true }).fill('Heard by telephone.');
  await dialog.getByRole('button', { name: 'Merge' }).click();
  await expect(pair).toHaveCount(0);
  const tags = async () =>
    ((await (await page.request.get(`/api/studies/${study}/tags`)).json()) as { studyId: number | null; name: string; aliases: string[] }[]).filter(
      (t) => t.studyId !== null,
    );
  await expect.poll(async () => (await tags()).map((t) => `${t.name}: ${t.aliases}`)).toEqual(['somebody rung up: rung up by somebody', 'silent screens: ']);
  await page.keyboard.press('Control+z');
  await expect(pair).toHaveCount(1);

  // From the tag set: the tag that is lit is merged into another by its name.
  await page.getByRole('link', { name: 'Tag set' }).last().click();
  await page.getByRole('textbox', { name: 'Find a tag' }).fill('silent');
  await page.getByRole('treeitem', { name: 'silent screens' }).click();
  await page.keyboard.press('m');
  await page.getByRole('combobox', { name: 'Tag' }).fill('screen says');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('dialog')).toContainText('“screen says otherwise” is then on');
  await page.getByRole('dialog').getByRole('button', { name: 'Merge' }).click();
  await expect(page.getByText('Merged the tag “silent screens” into “screen says otherwise”')).toBeVisible();
  await expect(page.getByRole('treeitem', { name: 'silent screens' })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('treeitem', { name: 'silent screens' })).toHaveCount(1);
});

test('loose tags become a tree of three levels by keys, by drag, and by one undo after the other again a pile', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'Pile', 'P01', talk);
  const [, study] = /studies\/(\d+)\/mark/.exec(page.url())!;
  await page.goto(`/studies/${study}/sort/tags`);
  // They come from a spreadsheet.
  await page.getByRole('button', { name: 'import' }).click();
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Paste cells').fill(['news', 'by neighbours', 'by the shop', 'on the telephone', 'by the screen'].map((n) => `pile ${n}`).join('\n'));
  await dialog.getByRole('button', { name: 'See what happens' }).click();
  await expect(dialog.getByRole('button', { name: '5 new' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Import 5 tags' }).click();
  const [frame, pile] = [page.getByRole('tree', { name: 'Frame' }), page.getByRole('tree', { name: 'Loose tags' })];
  const level = (name: string) => frame.getByRole('treeitem', { name: `pile ${name}`, exact: true });
  await page.getByRole('textbox', { name: 'Find a tag' }).fill('pile');
  await expect(pile.getByRole('treeitem')).toHaveCount(5);

  // One is defined and is a frame; the others are put under it by one key each.
  await pile.getByRole('treeitem', { name: 'pile news' }).click();
  await page.keyboard.press('e');
  await dialog.getByLabel('Definition').fill('How a change was heard of.');
  await dialog.getByRole('button', { name: 'Save' }).click();
  await expect(level('news')).toBeVisible();
  await level('news').click();
  await pile.getByRole('treeitem', { name: 'pile by neighbours' }).click();
  for (const left of [3, 2, 1]) {
    await page.keyboard.press('o');
    await expect(pile.getByRole('treeitem')).toHaveCount(left);
  }
  await expect(frame.getByRole('treeitem')).toHaveCount(4);
  // Where they go stays, also while something else is looked for.
  await page.getByRole('textbox', { name: 'Find a tag' }).fill('pile by the screen');
  await expect(page.getByText('puts one under “pile news”')).toBeVisible();
  await page.getByRole('textbox', { name: 'Find a tag' }).fill('pile');
  await expect(level('by the shop')).toHaveAttribute('aria-level', '2');

  // In, up, out; renamed in place; cut and put elsewhere.
  await level('by the shop').click();
  await page.keyboard.press('Alt+ArrowRight');
  await expect(level('by the shop')).toHaveAttribute('aria-level', '3');
  await page.keyboard.press('F2');
  await page.keyboard.type('pile in the shop');
  await page.keyboard.press('Enter');
  await expect(level('in the shop')).toBeVisible();
  await page.keyboard.press('Alt+ArrowLeft');
  await expect(level('in the shop')).toHaveAttribute('aria-level', '2');
  await page.keyboard.press('Control+x');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Control+v');
  await expect(level('in the shop')).toHaveAttribute('aria-level', '3');

  // By drag, onto a name.
  const from = (await pile.getByRole('treeitem', { name: 'pile by the screen' }).boundingBox())!;
  const to = (await level('news').boundingBox())!;
  await page.mouse.move(from.x + 60, from.y + 15);
  await page.mouse.down();
  await page.mouse.move(to.x + 120, to.y + 8, { steps: 6 });
  await page.mouse.move(to.x + 120, to.y + 18, { steps: 4 });
  await page.mouse.up();
  await expect(level('by the screen')).toHaveAttribute('aria-level', '2');
  await page.keyboard.press('Control+z');
  await expect(pile.getByRole('treeitem', { name: 'pile by the screen' })).toBeVisible();
  // With Shift a drop merges, after what happens is shown.
  await page.mouse.move(from.x + 60, from.y + 15);
  await page.mouse.down();
  await page.mouse.move(to.x + 120, to.y + 8, { steps: 6 });
  await page.keyboard.down('Shift');
  await page.mouse.move(to.x + 120, to.y + 18, { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect(page.getByRole('dialog')).toContainText('Merge');
  await page.keyboard.press('Escape');
  await expect(pile.getByRole('treeitem', { name: 'pile by the screen' })).toBeVisible();

  // Retired, it is offered no more; all that hangs on it is said first.
  await level('news').click();
  await page.keyboard.press('r');
  await expect(page.getByRole('dialog').getByRole('list', { name: 'Where it is used' })).toContainText('2 tags right under it');
  await page.getByRole('dialog').getByRole('button', { name: 'Retire', exact: true }).click();
  await expect(level('news')).toContainText('retired');
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(level('news')).not.toContainText('retired');

  // The same as a list: those that nobody has used.
  await page.getByRole('button', { name: 'As a list' }).click();
  await page.getByRole('button', { name: 'all of them' }).click();
  await page.getByLabel('Only those never used').check();
  await expect(page.getByText('5 of ')).toBeVisible();
});

test('a wide tag of six passages is split by keys as 3, 1, 1, 1, left and come back to, and kept above or let go', async ({ page }) => {
  await comeIn(page);
  const said = ['It left early.', 'It left without me.', 'It had left.', 'I paid the taxi.', 'My sister waited.', 'I was on the hill.'];
  const text = `Wren: ${said.join(' ')}`;
  await newText(page, 'Wide', 'P01', text);
  const [, study, source] = /studies\/(\d+)\/mark\?source=(\d+)/.exec(page.url())!;
  for (const words of said)
    await write(page, 'post', `/api/sources/${source}/observations`, {
      anchor: { kind: 'text', start: text.indexOf(words), end: text.indexOf(words) + words.length },
      tagIds: [],
      newTags: ['wide'],
    });
  await page.goto(`/studies/${study}/sort/tags`);
  await page.getByRole('treeitem', { name: 'wide' }).click();
  await page.keyboard.press('s');
  const stand = page.getByRole('article', { name: 'Observation' });
  await expect(stand).toContainText('It left early.');
  await page.keyboard.press('n');
  await page.keyboard.type('gone already, money spent, someone waiting');
  await page.keyboard.press('Enter');
  const trays = page.getByRole('list', { name: 'Trays' }).getByRole('listitem');
  await expect(trays).toHaveCount(3);
  await page.keyboard.press('1');
  await expect(stand).toContainText('Marked by');
  await page.keyboard.press('q');
  await page.keyboard.press('Backspace');
  await page.keyboard.press('1');
  // All with a word at once, after a look.
  await page.keyboard.press('a');
  const dialog = page.getByRole('dialog');
  await dialog.getByRole('textbox').fill('leaving');
  await expect(dialog.getByRole('status')).toHaveText('0 would go.');
  await dialog.getByRole('textbox').fill('had');
  await expect(dialog.getByRole('list')).toContainText('It had left.');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status')).toContainText('3 of 6 looked at');
  // Left and come back to.
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Split …' }).click();
  await expect(stand).toContainText('I paid the taxi.');
  await page.keyboard.press('2');
  await expect(stand.locator('.underline')).toHaveText('My sister waited.');
  await page.keyboard.press('3');
  await page.keyboard.press('n');
  await page.keyboard.type('on the way');
  await page.keyboard.press('Enter');
  await expect(trays).toHaveCount(4);
  await page.keyboard.press('4');
  await expect(page.getByText('All 6 are looked at.')).toBeVisible();
  await expect(trays).toHaveText([/gone already\s*3/, /money spent\s*1/, /someone waiting\s*1/, /on the way\s*1/]);
  await expect(page.getByText('own 6 → 0, with those under it 6 → 6')).toBeVisible();
  await page.getByRole('button', { name: 'Keep “wide” above them' }).click();
  const counts = async () => {
    const tags = (await (await page.request.get(`/api/studies/${study}/tags`)).json()) as { id: number; name: string; studyId: number | null }[];
    const counted = (await (await page.request.get(`/api/studies/${study}/tag-counts`)).json()) as {
      tagId: number;
      own: { observations: number };
      breadth: { triple: { observations: number } };
    }[];
    return tags
      .filter((t) => t.studyId !== null)
      .map((t) => {
        // One that came between the two answers has no count yet.
        const of = counted.find((c) => c.tagId === t.id);
        return `${t.name} ${of?.own.observations} ${of?.breadth.triple.observations}`;
      });
  };
  await expect.poll(counts).toEqual(['wide 0 6', 'gone already 3 3', 'money spent 1 1', 'someone waiting 1 1', 'on the way 1 1']);
  await expect(page.getByRole('treeitem', { name: 'gone already' })).toBeVisible();
  // One step back, and the desk is where it was; let go, the wide tag is gone.
  await page.keyboard.press('Control+z');
  await expect.poll(counts).toEqual(['wide 6 6']);
  await page.goBack();
  await expect(page.getByText('All 6 are looked at.')).toBeVisible();
  await page.getByRole('button', { name: 'Remove the wide tag' }).click();
  await expect.poll(counts).toEqual(['gone already 3 3', 'money spent 1 1', 'someone waiting 1 1', 'on the way 1 1']);
});

test('a tag of one study is proposed, and the steward takes it in under another name', async ({ page, browser }) => {
  await comeIn(page, 'Tom Varley');
  await newText(page, 'Proposing', 'P01', talk);
  const [, study, source] = /studies\/(\d+)\/mark\?source=(\d+)/.exec(page.url())!;
  await write(page, 'post', `/api/sources/${source}/observations`, { anchor: { kind: 'text', start: 6, end: 26 }, tagIds: [], newTags: ['rung up'] });
  await page.goto(`/studies/${study}/sort/tags`);
  await page.getByRole('treeitem', { name: 'rung up' }).click();
  await page.getByRole('button', { name: 'Propose for all' }).click();
  await page.getByLabel('Why other studies may want it').fill('All have telephones.');
  await page.getByRole('button', { name: 'Propose it' }).click();
  await expect(page.getByText('the steward has not answered yet')).toBeVisible();

  const una = await (await browser.newContext({ baseURL: new URL(page.url()).origin })).newPage();
  await comeIn(una, 'Una Kerr');
  await una.goto('/tags/proposals');
  const waits = una.getByRole('list', { name: 'Proposals that wait' }).getByRole('listitem').filter({ hasText: 'All have telephones.' });
  await expect(waits).toContainText('A neighbour rang me.');
  await waits.getByRole('button', { name: 'Accept it' }).click();
  // A name that a shared tag has is refused, and what was typed stays.
  await una.getByLabel('What it is called from now on').fill('queue');
  await una.getByRole('button', { name: 'Accept it', exact: true }).click();
  await expect(una.getByRole('alert')).toContainText('Every study shares a tag “queue” already.');
  await una.getByLabel('What it is called from now on').fill('called up');
  await una.getByRole('button', { name: 'Accept it', exact: true }).click();
  await expect(una.getByRole('region', { name: 'Answered' })).toContainText('rung up of Proposing: accepted into the shared set by Una Kerr.');
  // Who proposed it sees it under its new name at once.
  await expect(page.getByRole('treeitem', { name: 'called up' })).toBeVisible();
  await una.keyboard.press('Control+z');
  await expect(waits).toHaveCount(1);
  await una.context().close();
});

test('tags are put in a bundle by keys, found and shown by it, and leave it as they were', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'Bundles', 'P01', talk);
  const [, study, source] = /studies\/(\d+)\/mark\?source=(\d+)/.exec(page.url())!;
  for (const [words, tag] of [
    ['A neighbour rang me.', 'rung up'],
    ['The man in the shop told my sister.', 'told in a shop'],
    ['The screen said nothing.', 'silent screen'],
  ] as const)
    await write(page, 'post', `/api/sources/${source}/observations`, {
      anchor: { kind: 'text', start: talk.indexOf(words), end: talk.indexOf(words) + words.length },
      tagIds: [],
      newTags: [tag],
    });
  await page.goto(`/studies/${study}/sort/tags`);
  await page.getByRole('treeitem', { name: 'rung up' }).click();
  await page.keyboard.press('Space');
  await page.getByRole('treeitem', { name: 'told in a shop' }).click({ modifiers: ['Control'] });
  await page.keyboard.press('b');
  await page.getByRole('combobox', { name: 'Bundle' }).fill('By people');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Bundles' }).click();
  const bundle = page.getByRole('option', { name: 'By people' });
  await expect(bundle).toContainText('rung up, told in a shop');
  await expect(bundle).toContainText('2');
  // The same acts as a tag has: what is done with one tag asks which.
  await bundle.click();
  await page.keyboard.press('s');
  await expect(page.getByRole('dialog')).toContainText('Split which tag of “By people”?');
  await page.keyboard.press('Escape');
  // A bundle is given to nothing: its name in the tag line offers its tags.
  await page.goto(`/studies/${study}/mark?source=${source}`);
  await select(page, 'The screen');
  const line = page.getByTestId('tag-line');
  await line.getByRole('combobox').fill('by people');
  await page.keyboard.press('Enter');
  await expect(line.getByRole('option')).toHaveCount(2);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  // Only what it stands for is shown.
  await page.getByRole('group', { name: 'What is shown' }).getByRole('button', { name: 'all tags' }).click();
  await page.getByRole('checkbox', { name: 'By people' }).check();
  await expect(page.getByText('1 mark hidden')).toBeVisible();
  // Leaving it touches no tag.
  await page.goto(`/studies/${study}/sort/tags`);
  await page.getByRole('treeitem', { name: 'rung up' }).click();
  await page.getByRole('button', { name: 'By people' }).click();
  await page.getByRole('button', { name: 'Remove rung up from By people' }).click();
  await expect(page.getByRole('option', { name: 'By people' })).not.toContainText('rung up');
  await page.getByRole('button', { name: 'Tree' }).click();
  await expect(page.getByRole('treeitem', { name: 'rung up' })).toContainText('1');
  await page.keyboard.press('Control+z');
  await page.getByRole('button', { name: 'Bundles' }).click();
  await expect(bundle).toContainText('rung up, told in a shop');
});

test('cells of a spreadsheet are pasted over many tags; what is refused says why and stays', async ({ page }) => {
  await comeIn(page);
  await newText(page, 'Cells', 'P01', talk);
  const [, study] = /studies\/(\d+)\/mark/.exec(page.url())!;
  for (const name of ['zz alpha', 'zz beta', 'zz gamma']) await write(page, 'post', `/api/studies/${study}/tags`, { name });
  await page.goto(`/studies/${study}/sort/tags`);
  await page.getByRole('button', { name: 'As a table' }).click();
  await page.getByRole('textbox', { name: 'Find a tag' }).fill('zz ');
  const grid = page.getByRole('grid', { name: 'Tags' });
  await expect(grid.getByRole('row')).toHaveCount(4);
  await grid.focus();
  await page.keyboard.press('ArrowRight');
  await grid.evaluate((on) => {
    const cells = new DataTransfer();
    cells.setData('text/plain', '\tThe first.\nzz alpha\t"Of two\nlines."\nnowhere\tThe third.\n');
    on.dispatchEvent(new ClipboardEvent('paste', { clipboardData: cells, bubbles: true }));
  });
  await expect(page.getByText('1 cell not saved. No tag is called so.')).toBeVisible();
  const tags = async () =>
    ((await (await page.request.get(`/api/studies/${study}/tags`)).json()) as { name: string; definition: string; parentId: number | null }[])
      .filter((t) => t.name.startsWith('zz'))
      .map((t) => `${t.name}, ${t.parentId === null ? 'alone' : 'under one'}: ${t.definition}`);
  await expect.poll(tags).toEqual(['zz alpha, alone: The first.', 'zz beta, under one: Of two\nlines.', 'zz gamma, alone: The third.']);
  await expect(grid.getByRole('gridcell', { name: /Under of zz gamma: nowhere/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect.poll(tags).toEqual(['zz alpha, alone: ', 'zz beta, alone: ', 'zz gamma, alone: ']);
});
