import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from '@tanstack/react-router';
import { useState } from 'react';
import { api, ask, type Schemas } from '@/api/client';
import { queries } from '@/api/queries';
import { AgreedChoice } from '@/gather/participants/AgreedChoice';
import { Button } from '@/parts/Button';
import { Waiting } from '@/parts/Empty';
import { Problem } from '@/parts/Field';
import { count } from '@/parts/words';
import { attributeWords } from '@/gather/participants/attributeWords';
import { useImports } from '@/gather/imports/ImportTray';
import { CameBefore, thenWords } from './CameBefore';
import { Differences } from './Differences';
import { Outgrown } from './Outgrown';

type Column = Schemas['SurveyColumn'];

const roleWords: Record<Exclude<Schemas['ColumnRole'], 'scaleValue'>, string> = {
  who: 'who answered',
  when: 'when answered',
  attribute: 'an attribute',
  openAnswer: 'an open answer',
  rating: 'a rating',
  ignore: 'ignored',
};

/** Why a column stays text, and what to do about it. */
const doubtWords: Record<Schemas['ValueDoubt'], string> = {
  leadingNoughts: 'Not taken as numbers: as numbers, cells such as 007 would lose their noughts.',
  longNumbers: 'Not taken as numbers: numbers of more than 15 digits would be rounded.',
  mixedSeparators: 'Not taken as numbers: some cells are written 1,5 and others 1.5.',
  unclearSeparators: 'Not taken as numbers: 1,234 can be a thousand or one and a bit. Choose number if you know.',
  mixedUnits: 'Not taken as numbers: only some cells have a percent sign or a currency.',
  mixedDates: 'Not taken as dates: in some cells the day comes first, in others the month.',
  unclearDates: 'Not taken as dates: nothing tells whether day or month comes first. Choose date, and the day is taken first.',
};

/** A rating becomes a number among the attributes, or the value of a tag on the answer. */
const isRating = ({ role }: Column) => role === 'rating' || role === 'scaleValue';

/** Where a survey's table is told what its columns are, with what would come of it beside. */
export function SurveyPage() {
  const { studyId, table: key } = useParams({ from: '/team/studies/$studyId/gather/table/$table' });
  const [headerRows, setHeaderRows] = useState<number | null>(null);
  const { data: table, error } = useQuery(queries.surveyTable(studyId, key, headerRows));
  if (!table) return <Waiting problem={error} />;
  return <Mapping key={table.headerRows} studyId={studyId} importKey={key} table={table} onHeaderRows={setHeaderRows} />;
}

interface Props {
  studyId: number;
  importKey: string;
  table: Schemas['SurveyTable'];
  onHeaderRows: (rows: number) => void;
}

function Mapping({ studyId, importKey, table, onHeaderRows }: Props) {
  const navigate = useNavigate();
  const { again } = useImports(studyId);
  const [name, setName] = useState(table.name);
  const [columns, setColumns] = useState<readonly Column[]>(table.columns);
  const [problem, setProblem] = useState<Error | null>(null);
  const [then, setThen] = useState<Schemas['SurveyAgain']>('leave');
  const [heldOn, setHeldOn] = useState('');
  const [widen, setWiden] = useState(false);
  const [agreedBy, setAgreedBy] = useState<Schemas['AgreedBy']>(null);
  const given: Schemas['SurveyGiven'] = {
    name,
    headerRows: table.headerRows,
    columns: [...columns],
    again: then,
    heldOn: heldOn || null,
    widenScales: widen,
    agreedBy,
  };
  const preview = useQuery({ ...queries.surveyPreview(studyId, importKey, table.headerRows, columns), placeholderData: keepPreviousData });
  const change = (at: number, to: Partial<Column>) =>
    setColumns(columns.map((c, i) => (i === at ? { ...c, ...to } : to.role === 'who' && c.role === 'who' ? { ...c, role: 'attribute' } : c)));
  const takeIn = () =>
    ask(api.POST('/api/studies/{studyId}/imports/{key}/survey', { params: { path: { studyId, key: importKey } }, body: given })).then(() => {
      again();
      return navigate({ to: '/studies/$studyId/gather', params: { studyId } });
    }, setProblem);
  const misfits = new Map(preview.data?.misfits.map((m) => [m.column, m]));
  const changes = new Map(preview.data?.changes.map((c) => [c.column, c]));
  const doubts = new Map(table.doubts.map((d) => [d.column, d.doubt]));
  const select = 'min-h-8 w-full rounded-std border border-line bg-case px-2 py-1';
  return (
    <div className="grid h-full grid-cols-[minmax(0,1fr)_300px]">
      <div className="overflow-auto px-6 py-6">
        <h1 className="font-read text-xl font-semibold">What the columns of this table are</h1>
        <p className="mt-1 mb-4 text-ink-soft">
          {rowsAndPeople(table.rows, preview.data?.result.people)} The kinds are guessed; change what is wrong. {table.remarks.join(' ')}
        </p>
        <table className="w-full text-[13.5px]">
          <thead>
            <tr className="border-b border-line text-left text-[12.5px] text-ink-soft">
              <th className="py-2 pr-3 font-medium">Column</th>
              <th className="w-[150px] py-2 pr-3 font-medium">It is</th>
              <th className="w-[118px] py-2 pr-3 font-medium">Its values are</th>
              <th className="py-2 pr-3 font-medium">Filled</th>
              {table.firstRows.slice(0, 3).map((_, i) => (
                <th key={i} className="py-2 pr-3 font-medium">
                  Row {i + 1}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {columns.map((column, at) => {
              const wrong = misfits.get(at);
              const changed = changes.get(at);
              const doubt = column.role === 'attribute' && (column.kind === 'text' || column.kind === 'choice') ? doubts.get(at) : undefined;
              const soft = column.role === 'ignore' ? 'text-ink-soft' : '';
              return (
                <tr key={at} className="border-b border-line align-top">
                  <th scope="row" className={`max-w-[190px] py-1.5 pr-3 text-left font-medium ${soft}`}>
                    <span className="mt-1 block">{column.name}</span>
                    {wrong && (
                      <span className="block text-[12px] font-normal text-oxblood">
                        {count(wrong.values, 'value')} would be left out: {wrong.examples.join(', ')}
                      </span>
                    )}
                    {doubt && <span className="block text-[12px] font-normal text-brass">{doubtWords[doubt]}</span>}
                    {changed && (
                      <span className="block text-[12px] font-normal text-ink-soft">
                        {count(changed.spellings, 'spelling')} {changed.spellings === 1 ? 'is' : 'are'} kept in another form
                        {unseen(changed, table.firstRows.slice(0, 3), at)}
                      </span>
                    )}
                  </th>
                  <td className="py-1.5 pr-3">
                    <select
                      aria-label={`What ${column.name} is`}
                      className={select}
                      value={isRating(column) ? 'rating' : column.role}
                      onChange={(e) => change(at, { role: e.target.value as Column['role'] })}
                    >
                      {Object.entries(roleWords).map(([role, words]) => (
                        <option key={role} value={role}>
                          {words}
                        </option>
                      ))}
                    </select>
                  </td>
                  <td className="py-1.5 pr-3">
                    {column.role === 'attribute' && (
                      <select
                        aria-label={`What the values of ${column.name} are`}
                        className={select}
                        value={column.kind}
                        onChange={(e) => change(at, { kind: e.target.value as Column['kind'] })}
                      >
                        {Object.entries(attributeWords).map(([kind, words]) => (
                          <option key={kind} value={kind}>
                            {words}
                          </option>
                        ))}
                      </select>
                    )}
                    {isRating(column) && (
                      <select
                        aria-label={`What becomes of the values of ${column.name}`}
                        className={select}
                        value={column.role}
                        onChange={(e) => change(at, { role: e.target.value as Column['role'] })}
                      >
                        <option value="rating">a number</option>
                        <option value="scaleValue">on a scale</option>
                      </select>
                    )}
                  </td>
                  <td className={`py-1.5 pr-3 whitespace-nowrap ${soft}`}>
                    <span className="mt-1.5 block">
                      {table.filled[at]} of {table.rows}
                    </span>
                  </td>
                  {table.firstRows.slice(0, 3).map((row, i) => (
                    <td key={i} className={`max-w-[190px] py-1.5 pr-3 ${soft} ${column.role === 'openAnswer' ? 'font-read' : ''}`} title={row[at]}>
                      <span className="mt-1.5 line-clamp-2">{row[at]}</span>
                      <Becomes change={changed?.first.find((c) => c.cell === row[at])} />
                    </td>
                  ))}
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <aside aria-label="What will be imported" className="overflow-y-auto border-l border-line bg-case px-5 py-6">
        <Problem of={problem ?? preview.error} />
        <label className="mb-4 block">
          <span className="mb-1 block text-[13px] font-medium">Name of the survey</span>
          <input className="w-full rounded-std border border-line bg-case px-3 py-1.5" value={name} onChange={(e) => setName(e.target.value)} />
        </label>
        <label className="mb-5 block">
          <span className="mb-1 block text-[13px] font-medium">Rows that name the columns</span>
          <select className={select} value={table.headerRows} onChange={(e) => onHeaderRows(Number(e.target.value))}>
            {[1, 2, 3].map((n) => (
              <option key={n} value={n}>
                {n === 1 ? 'the first' : `the first ${n}`}
              </option>
            ))}
          </select>
        </label>
        <h2 className="mb-1 text-[13px] font-semibold text-ink-soft">What will be imported</h2>
        <ul aria-live="polite" className="mb-5 space-y-1">
          {preview.data && outcome(preview.data.result, then).map((line) => <li key={line}>{line}</li>)}
        </ul>
        {preview.data && preview.data.outgrown.length > 0 && <Outgrown scales={preview.data.outgrown} widen={widen} onWiden={setWiden} />}
        {preview.data && preview.data.unheard.values > 0 && (
          <section aria-label="What is not taken" className="mb-5 border-t border-line pt-4">
            <p className="text-[13px]">
              {count(preview.data.unheard.values, 'value')} of people of whom something else is noted already, in the study or in an earlier row. What is noted
              stays; to keep {preview.data.unheard.values === 1 ? 'it' : 'them'} as well, take the column as an open answer.
            </p>
            <Differences
              label="What is not taken"
              first={preview.data.unheard.first.map((d) => ({ ...d, before: d.now, now: d.before }))}
              all={preview.data.unheard.values}
            />
          </section>
        )}
        {preview.data?.known && (
          <CameBefore
            known={preview.data.known}
            differing={preview.data.result.changed}
            byPeople={columns.some((c) => c.role === 'who')}
            dated={columns.some((c) => c.role === 'when')}
            then={then}
            onThen={setThen}
            heldOn={heldOn}
            onHeldOn={setHeldOn}
          />
        )}
        {preview.data?.result.newPeople !== 0 && <AgreedChoice by={agreedBy} onBy={setAgreedBy} />}
        <div className="flex gap-2">
          <Button look="main" onClick={() => void takeIn()}>
            Import it
          </Button>
          <Link
            to="/studies/$studyId/gather"
            params={{ studyId }}
            className="inline-flex min-h-8 items-center rounded-std px-3 text-[13px] font-medium text-ink-soft hover:bg-wash hover:text-ink"
          >
            Not now
          </Link>
        </div>
        <p className="mt-3 text-[12.5px] text-ink-soft">
          It runs in the background and is one step to undo. A code is shown as it is; a name or an address stays with the team, and the person is called by a
          code. When the table has grown or changed, add it again: it is known by its people and questions.
        </p>
      </aside>
    </div>
  );
}

/** The first of the changes that no row on the page shows. */
function unseen(changed: Schemas['ColumnChanges'], rows: readonly string[][], at: number): string {
  const others = changed.first.filter((c) => !rows.some((r) => r[at] === c.cell)).slice(0, 2);
  return others.length === 0 ? '' : `, such as ${others.map((c) => `${c.cell} (${c.becomes === '' ? 'left empty' : c.becomes})`).join(', ')}`;
}

/** What a cell is kept as, where that is not what it says. */
function Becomes({ change }: { change: Schemas['ChangedCell'] | undefined }) {
  if (!change) return null;
  return <span className="block text-[12px] text-brass">{change.becomes === '' ? 'left empty' : `becomes ${change.becomes}`}</span>;
}

function rowsAndPeople(rows: number, people: number | undefined): string {
  if (people === undefined || people === rows) return `${count(rows, 'row')}, each one person who answered.`;
  return `${count(rows, 'row')} of ${count(people, 'person', 'people')}: each row is a source of its own.`;
}

function outcome({ newPeople, knownPeople, sources, before, changed, values, grown }: Schemas['SurveyResult'], then: Schemas['SurveyAgain']): string[] {
  return [
    newPeople > 0 && count(newPeople, 'new participant'),
    knownPeople > 0 && `${count(knownPeople, 'row')} of people who are here already`,
    sources > 0 && `${count(sources, 'source')} with their open answers, in a folder of their own`,
    before > changed + grown && `${count(before - changed - grown, 'row')} came in before and will be passed over`,
    changed > 0 && `${count(changed, 'row')} came in before and ${changed === 1 ? 'says' : 'say'} something else now: ${thenWords[then]}`,
    values > 0 && `${count(values, 'value')} on the scales of tags`,
    grown > 0 && `${count(grown, 'row')} came in before and ${grown === 1 ? 'answers' : 'answer'} questions that are new: they are added`,
    newPeople + knownPeople + changed + grown === 0 && 'Nothing new',
  ].filter((line) => line !== false);
}
