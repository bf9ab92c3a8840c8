import { dirname, join } from 'node:path';
import { expect, test } from './demo';
import { comeIn, goTo, newStudy, paste, reading, select } from './people';

const file = (name: string, content: string | Buffer) => ({ name, mimeType: 'application/octet-stream', buffer: Buffer.from(content) });

test('several files at once: good ones come in, bad ones say what is wrong', async ({ page }) => {
  await comeIn(page);
  await newStudy(page, 'Files <b>& more</b>');
  await expect(page.getByRole('link', { name: 'Files <b>& more</b>' })).toBeVisible();
  await goTo(page, 'Gather');
  await page
    .getByLabel('Files to add')
    .setInputFiles([
      file('one.txt', Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from('I: Ready?\r\nP1: Yes.\r\nI: Go.\r\nP1: Gone.', 'utf16le')])),
      file('picture.txt', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 1])),
      file('captions.vtt', 'WEBVTT\n\n00:01.000 --> 00:04.000\n<v Linnet>Oh.\n\n00:99.000 --> never\nlost'),
      file('empty.md', ''),
      file('huge.txt', Buffer.alloc(6_000_000, 'words and words ')),
      file('again.txt', 'I: Ready?\nP1: Yes.\nI: Go.\nP1: Gone.'),
    ]);
  const list = page.getByRole('region', { name: 'Files' });
  await expect(list.getByRole('listitem').filter({ hasText: 'one.txt' })).toContainText('4 turns by 2 speakers');
  await expect(list.getByRole('listitem').filter({ hasText: 'picture.txt' })).toContainText('This is not a text file');
  await expect(list.getByRole('listitem').filter({ hasText: 'captions.vtt' })).toContainText('One caption was left out: line 6');
  await expect(list.getByRole('listitem').filter({ hasText: 'empty.md' })).toContainText('The file is empty');
  await expect(list.getByRole('listitem').filter({ hasText: 'huge.txt' })).toContainText('6 MB; one source can hold 5 MB');
  await expect(list.getByRole('listitem').filter({ hasText: 'again.txt' })).toContainText('already here as “one”');
  await expect(page.getByRole('link', { name: /^Gather 2 sources/ })).toBeVisible();
  // What came by one choice goes by one undo.
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('link', { name: /^Gather no sources|^Gather 0 sources|^Gather$/ })).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByRole('link', { name: /^Gather 2 sources/ })).toBeVisible();
});

test('a document is read in its shape, and marked across what stands out in it', async ({ page }) => {
  await comeIn(page);
  await newStudy(page, 'Reports');
  await goTo(page, 'Gather');
  await page.getByLabel('Files to add').setInputFiles(join(dirname(test.info().file), '../references/documents/quay-report.docx'));
  await expect(page.getByRole('region', { name: 'Files' })).toContainText('added');
  // What became of the files is still there after a reload, until it is put away.
  await page.reload();
  await page.getByRole('link', { name: 'Read quay-report.docx' }).click();
  await expect(page.getByRole('heading', { name: 'What was said' })).toBeVisible();
  await select(page, 'made up; every quote was said');
  await page.keyboard.type('said to us');
  await page.keyboard.press('Enter');
  await expect(reading(page).getByRole('button', { name: 'said to us' })).toBeVisible();
  await select(page, '40 minutes');
  await page.keyboard.type('long wait');
  await page.keyboard.press('Enter');
  await goTo(page, 'Weigh');
  await page
    .getByRole('row', { name: /said to us/ })
    .getByRole('button', { name: /: 1 observation/ })
    .first()
    .click();
  await expect(page.getByText('made up; every quote was said')).toBeVisible();
  await goTo(page, 'Gather');
  await page.getByRole('button', { name: 'Close this list' }).click();
  await expect(page.getByRole('region', { name: 'Files' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Change quay-report' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Original file' }).click();
  expect((await download).suggestedFilename()).toBe('quay-report.docx');
});

test('a refused paste keeps every typed word', async ({ page }) => {
  await comeIn(page);
  await newStudy(page, 'Refusals');
  await goTo(page, 'Gather');
  await page.getByRole('button', { name: 'Paste a text' }).first().click();
  await page.getByLabel('Title').fill('Kept');
  await page.getByRole('button', { name: 'Add the source' }).click();
  await expect(page.getByRole('alert')).toContainText('There are no words in it');
  await expect(page.getByLabel('Title')).toHaveValue('Kept');
});

test('a speaker becomes a participant on the spot, and the transcript’s name stays with the team', async ({ page }) => {
  await comeIn(page);
  await newStudy(page, 'Paper tickets');
  await goTo(page, 'Gather');
  await paste(page, 'Tin of tickets', 'Interviewer: Do you keep them?\n\nAnna: Every one.\n\nInterviewer: Why?\n\nAnna: My mother did.');
  await page.getByLabel('Who is Anna?').selectOption('a new participant …');
  await page.getByRole('button', { name: 'Add and match' }).click();
  await expect(page.getByRole('alert')).toContainText('needs a pseudonym');
  await page.getByLabel('Pseudonym of the new participant').fill('Sorrel');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Who is Anna?')).toHaveValue(/\d+/);
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('row', { name: /Tin of tickets/ })).toContainText('Sorrel');
  await page.getByRole('link', { name: /^Participants/ }).click();
  await expect(page.getByRole('gridcell', { name: 'Real name of Sorrel: Anna' })).toBeVisible();
});

test('forty pasted lines become forty tagged notes, and a talk is read another way', async ({ page }) => {
  await comeIn(page);
  await newStudy(page, 'Notes');
  await goTo(page, 'Gather');
  await page.getByRole('button', { name: 'Paste a text' }).first().click();
  await page.getByLabel('It becomes').selectOption('a note from each line');
  await page.getByLabel('Text', { exact: true }).fill(Array.from({ length: 40 }, (_, i) => `Note ${i + 1}: nobody told us`).join('\n'));
  await page.getByLabel('Tags for each note').fill('learnt on the quay, quay note');
  await expect(page.getByRole('region', { name: 'What it becomes' })).toContainText('40 notes');
  await page.getByRole('button', { name: 'Add 40 notes' }).click();
  await expect(page.getByRole('link', { name: /^Mark 40 observations/ })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).first().click();
  await expect(page.getByRole('link', { name: /^Mark 0 observations/ })).toBeVisible();

  await paste(page, 'A talk', 'Linnet: this was on the quay.\n\nLinnet: it rained.\n\nNobody spoke much.');
  await page.getByText('How its turns were understood').click();
  await expect(page.getByLabel('How turns are written in it')).toHaveValue('nameAndColon');
  await page.getByLabel('How turns are written in it').selectOption('noTurns');
  await page.getByRole('button', { name: 'Read it so' }).click();
  await expect(page.getByLabel('Who is Linnet?')).toHaveCount(0);
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('link', { name: 'A talk' }).click();
  await expect(page.getByText('Linnet: it rained.')).toBeVisible();
});

test('six files of six layouts come in by one drop, and what is doubtful in them is settled by keys', async ({ page }) => {
  await comeIn(page);
  await newStudy(page, 'Six layouts');
  await goTo(page, 'Gather');
  const folder = join(dirname(test.info().file), '../references/transcripts');
  const names = ['colon.txt', 'own-line.docx', 'table-three.web.pdf', 'time-above.office.pdf', 'square.txt', 'day-after.docx'];
  await page.getByLabel('Files to add').setInputFiles(names.map((name) => join(folder, name)));
  await expect(page.getByRole('region', { name: 'Files' })).toContainText('6 added');
  await page.getByRole('link', { name: 'Look at what was understood' }).click();
  await expect(page.getByRole('heading', { name: '1 name we are not sure about' })).toHaveCount(4);
  await expect(page.getByRole('region', { name: 'time-above.office' })).toContainText('12 turns by 4 speakers, from 00:05 to 01:35');

  // The keys work at once: this one speaks, and that one is no name.
  const first = page.getByRole('list', { name: 'Names to look at in colon' }).getByRole('listitem');
  await first.focus();
  await page.keyboard.press('s');
  await expect(first).toHaveAccessibleName('Captain Reed, settled');
  const second = page.getByRole('list', { name: 'Names to look at in own-line' }).getByRole('listitem');
  await expect(second).toBeFocused();
  await expect(page.getByLabel('Who is Captain Reed?')).toHaveCount(6);
  await page.keyboard.press('n');
  await expect(page.getByLabel('Who is Captain Reed?')).toHaveCount(5);
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Who is Captain Reed?')).toHaveCount(6);
  await expect(second).toHaveAccessibleName('Captain Reed, to look at');

  // One match is for all six.
  await page.getByRole('region', { name: 'colon' }).getByLabel('Who is Sorrel?').selectOption('new');
  await page.getByLabel('Pseudonym of the new participant').fill('Sedge');
  await page.getByRole('button', { name: 'Add and match' }).click();
  await expect(page.getByLabel('Who is Sorrel?')).toHaveCount(6);
  for (const who of await page.getByLabel('Who is Sorrel?').all()) await expect(who.locator('option:checked')).toContainText('Sedge');
});
