import { type Page } from '@playwright/test';
import { expect, test } from './demo';
import { comeIn, demoStudy, goTo, newStudy, pasted, reading, rich, select, write } from './people';

const talk =
  'Tom: How did you hear?\n\nMarnie: I herd it on the quay at noon. Ring me on 01632 960 417.\n\nTom: And then?\n\nRose: The second boat was full, Marnie says.';

async function addPeople(page: Page, study: string) {
  await write(page, 'post', `/api${study}/participants`, { code: 'P01', pseudonym: 'Sorrel', realName: 'Marnie Zephyrwick' });
  await write(page, 'post', `/api${study}/participants`, { code: 'P02', pseudonym: 'Wren', realName: 'Rose Hollow' });
  const { people }: { people: { id: number }[] } = await (await page.request.get(`/api${study}/participants?page=0`)).json();
  await write(page, 'put', `/api${study}/participants/consent`, { participantIds: people.map((p) => p.id), consent: 'given' });
}

test('a transcript is corrected in place and as a whole, and what was marked is looked at', async ({ page }) => {
  await comeIn(page);
  await newStudy(page, 'Corrected');
  const study = new URL(page.url()).pathname;
  await addPeople(page, study);
  await goTo(page, 'Gather');
  await pasted(page, 'Marnie', talk);
  await page.goto(`${study}/mark`);
  for (const [words, tag] of [
    ['I herd it', 'hears'],
    ['second boat', 'full'],
  ]) {
    await select(page, words!);
    await page.keyboard.type(tag!);
    await page.keyboard.press('Shift+Enter');
    await expect(reading(page).getByRole('button', { name: tag! })).toBeVisible();
  }

  // One turn, by the keyboard.
  await page.keyboard.press('[');
  await page.keyboard.press('c');
  const turn = page.getByLabel('Words of Sorrel');
  await expect(turn).toBeFocused();
  await turn.fill('I heard it on the quay at noon. Ring me on 01632 960 417.');
  await page.keyboard.press('Control+Enter');
  await expect(reading(page)).toContainText('I heard it on the quay');
  await expect(reading(page).getByRole('button', { name: 'hears' })).toBeVisible();
  await expect(page.getByText('1 observation to look at after a correction')).toBeVisible();

  // The whole text: what it does is shown first; what was begun is kept over a reload.
  await page.getByRole('link', { name: 'Correct its text' }).click();
  const field = page.getByRole('textbox', { name: 'Text of Marnie' });
  await field.fill((await field.inputValue()).replace('The second boat was full, ', 'The boat had gone, ').replace('at noon', 'at noon sharp'));
  await expect(page.getByText('1 on changed words, to look at')).toBeVisible();
  await page.reload();
  await expect(field).toHaveValue(/noon sharp/);
  await page.getByRole('button', { name: 'Correct the text' }).click();
  await expect(reading(page)).toContainText('noon sharp');
  await page.getByRole('link', { name: 'Look at them' }).click();
  await expect(page.getByRole('heading', { name: 'To look at after corrections' })).toBeVisible();
  await page.getByRole('button', { name: 'All 2 on changed words are right' }).click();
  await expect(page.getByText('Nothing to look at')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: 'It is right' })).toHaveCount(2);

  // Words that are taken out leave their observation without a place, until it is given one.
  await page.goto(`${study}/mark`);
  await page.getByRole('link', { name: 'Correct its text' }).click();
  await field.fill((await field.inputValue()).replace('I heard it on the quay at noon sharp. ', ''));
  await page.getByRole('button', { name: 'Correct the text' }).click();
  await page.getByRole('link', { name: 'Look at them' }).click();
  await page.getByRole('link', { name: 'Give it a place' }).click();
  await expect(page.getByText('Select the words on which the observation “I herd it” belongs now.')).toBeVisible();
  await reading(page).focus();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'To look at after corrections' })).toBeVisible();
  await expect(page.getByText('not in the text any more')).toHaveCount(0);
});

test('names and numbers are masked after a look, and someone withdraws until nothing of theirs is left', async ({ page }) => {
  await comeIn(page);
  await newStudy(page, 'Said no');
  const study = new URL(page.url()).pathname;
  await addPeople(page, study);
  const source = (await write(page, 'post', `/api${study}/sources/paste`, { title: 'Both', kind: 'interview', heldOn: null, text: talk, participantIds: [] }))
    .step.id;
  const { people }: { people: { id: number }[] } = await (await page.request.get(`/api${study}/participants?page=0`)).json();
  const notes = await write(page, 'post', `/api${study}/sources/paste`, {
    title: 'Notes of two',
    kind: 'fieldNotes',
    heldOn: null,
    text: 'Both wait.\n\nShe sleeps under the thwart.',
    participantIds: people.map((p) => p.id),
  });
  const at = talk.indexOf('Ring me');
  const mark = (
    await write(page, 'post', `/api/sources/${source}/observations`, { anchor: { kind: 'text', start: at, end: at + 28 }, tagIds: [], newTags: ['calls'] })
  ).id;
  const insight = (await write(page, 'post', `/api${study}/insights`, { headline: 'They want a call', story: rich(), observationIds: [mark] })).id;
  const exhibit = (await write(page, 'post', '/api/exhibits', { question: 'What do they want?', summary: '' })).id;
  await write(page, 'put', `/api/exhibits/${exhibit}/insights`, { insightIds: [insight] });
  const { token } = await write(page, 'post', `/api/exhibits/${exhibit}/links`, {});
  const published = async () => (await page.request.get(`/api/read/${token}`)).text();
  expect(await published()).toContain('960 417');

  await page.goto(`${study}/gather/privacy`);
  await page.getByLabel('Also look for these words').fill('quay');
  await page.keyboard.press('Enter');
  const found = page.getByRole('list', { name: 'Found' });
  await expect(found).toContainText('01632 960 417');
  await found.getByRole('checkbox', { name: 'All places of quay' }).uncheck();
  await page.getByRole('button', { name: /^Mask \d+ places$/ }).click();
  await expect(page.getByRole('region', { name: 'Masked' })).toContainText('leaves as [phone number]');
  expect(await published()).toContain('Ring me on [phone number]');
  await page.goto(`${study}/mark?source=${source}`);
  await page.getByRole('button', { name: 'Show the words' }).click();
  await expect(page.getByRole('button', { name: 'Cover them' })).toBeVisible();

  await page.goto(`${study}/gather/people`);
  await page.getByRole('link', { name: 'Sorrel' }).click();
  await page.getByRole('link', { name: 'What a withdrawal touches' }).click();
  await expect(page.getByRole('region', { name: 'What it touches' })).toContainText('What do they want?');
  await page.getByRole('button', { name: 'Sorrel withdraws' }).click();
  await expect(page.getByLabel('Type P01 to erase it')).toBeVisible();
  expect(await published()).not.toContain('Ring me');
  await page.getByLabel('Type P01 to erase it').fill('P01');
  // What another takes part in too is decided first.
  await expect(page.getByRole('button', { name: 'Erase for good' })).toBeDisabled();
  await page.getByRole('radio', { name: 'Take their words out' }).press('Space');
  await page.getByRole('checkbox', { name: 'She sleeps under the thwart.' }).press('Space');
  await page.getByRole('button', { name: 'Erase for good' }).click();
  await expect(page.getByText('Erased for good')).toBeVisible();
  await page.goto(`${study}/mark?source=${source}`);
  await expect(reading(page)).toContainText('The second boat was full, (erased) says.');
  expect(await (await page.request.get(`/api/sources/${source}`)).text()).not.toContain('960 417');
  expect((await (await page.request.get(`/api/sources/${notes.step.id}`)).json()).text).toBe('Both wait.\n\n(erased)');
});

test('feedback arrives, a watch is tried and routes it, and it is kept by keys', async ({ page }) => {
  await comeIn(page);
  await demoStudy(page);
  await page.goto('/intake');
  const pieces = page.getByRole('region', { name: 'Pieces of feedback' });
  await expect(pieces.getByRole('article', { name: 'The named ticket' })).toContainText('by the watch Unhappy with buying: “ticket”; rated 2');

  await page.getByRole('button', { name: 'New watch' }).click();
  await page.getByLabel('Name', { exact: true }).fill('Views');
  await page.getByLabel('Into the study', { exact: true }).selectOption('Winter timetable');
  await page.getByLabel('Words', { exact: true }).fill('seal, view');
  await expect(page.getByText('Of what has arrived, 1 piece meets it')).toBeVisible();
  await page.getByRole('button', { name: 'Watch', exact: true }).click();
  const views = pieces.getByRole('article', { name: 'Good views' });
  await expect(views).toContainText('by the watch Views: “seals”, “views”');
  await views.focus();
  await page.keyboard.press('d');
  await expect(views).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(views).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  await expect(views).toHaveCount(0);

  // A file, and another program.
  await page.getByLabel('Feed or e-mail files to add').setInputFiles([
    {
      name: 'letter.eml',
      mimeType: 'message/rfc822',
      buffer: Buffer.from('From: Wren <wren@quay.example>\r\nSubject: No boat again\r\n\r\nIt was cancelled.'),
    },
    { name: 'broken.xml', mimeType: 'text/xml', buffer: Buffer.from('no feed') },
  ]);
  await expect(page.getByText('broken.xml: This is no feed that can be read.')).toBeVisible();
  const letter = pieces.getByRole('article', { name: 'No boat again' });
  await expect(letter).toContainText('by the watch Cancellations: “cancelled”, “No boat”');
  await letter.focus();
  await page.keyboard.press('k');
  await expect(letter).toHaveCount(0);
  await page.getByLabel('An address for another program').fill('App reviews');
  await page.getByRole('button', { name: 'Make' }).click();
  const line = await page.getByLabel('How to send').inputValue();
  const token = /Bearer ([\w-]+)/.exec(line)![1]!;
  const sent = await page.request.post('/api/intake/items', { headers: { authorization: `Bearer ${token}` }, data: { text: 'Nobody told us.' } });
  expect(await sent.json()).toEqual({ added: 1, known: 0, routed: 1 });
  await expect(pieces.getByRole('article', { name: 'Nobody told us.' })).toContainText('“told”');
});
