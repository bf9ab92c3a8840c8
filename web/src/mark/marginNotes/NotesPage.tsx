import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams, useSearch } from '@tanstack/react-router';
import { CircleDashed } from 'lucide-react';
import { useState } from 'react';
import { api, ask } from '@/api/client';
import { queries } from '@/api/queries';
import { useWrite } from '@/api/useWrite';
import { ActionButton } from '@/parts/actions/ActionButton';
import { usePageActions } from '@/parts/actions/registry';
import { Button } from '@/parts/Button';
import { Empty, Waiting } from '@/parts/Empty';
import { LongList } from '@/parts/LongList';
import { TagLabel } from '@/parts/TagLabel';
import { TagLine } from '@/parts/TagLine';
import { chosenNotes, type ChosenNotesActs } from './actions';
import { useTagLook } from '@/parts/useTagLook';
import { Box, Word } from '@/parts/WordChoices';
import { count, moment } from '@/parts/words';
import { FilterLine } from '@/shared/filter/FilterLine';
import { useWhere } from '@/shared/filter/useWhere';
import { asQuery } from '@/shared/filter/where';
import { useTagUses } from '@/shared/useTagUses';
import { listed, type Kind, type Listing, type Note } from './listed';

const kindWords: Record<Kind, string> = { margin: 'margin notes', observations: 'notes on observations', unsure: 'all that is unsure' };
const keyOf = (note: Note) => (note.on === 'marginNote' ? -note.id : note.id);

/** All notes of a study: those in the margin and those on observations, and all that is unsure. */
export function NotesPage() {
  const { studyId } = useParams({ from: '/team/studies/$studyId/mark/notes' });
  const listing = useSearch({ from: '/team/studies/$studyId/mark/notes' });
  const navigate = useNavigate();
  const { where, setWhere } = useWhere();
  const { data: notes, error } = useQuery(queries.notes(studyId, asQuery(where)));
  const sources = useQuery(queries.sources(studyId)).data;
  const people = useQuery(queries.participants(studyId)).data?.people;
  const { tags } = useTagUses(studyId);
  const look = useTagLook(tags?.map((t) => t.tag));
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [tagging, setTagging] = useState(false);
  const path = { studyId };
  const turn = useWrite((given: { marginNoteIds: number[]; tagIds: number[]; newTags: string[] }) =>
    ask(api.POST('/api/studies/{studyId}/margin-notes/observations', { params: { path }, body: given })),
  );
  const remove = useWrite((marginNoteIds: number[]) =>
    ask(api.POST('/api/studies/{studyId}/margin-notes/remove', { params: { path }, body: { marginNoteIds } })),
  );
  const unsure = useWrite((note: Note) =>
    note.on === 'marginNote'
      ? ask(api.PUT('/api/margin-notes/{id}/unsure', { params: { path: { id: note.id } }, body: { unsure: !note.unsure } }))
      : ask(api.PUT('/api/observations/{id}/unsure', { params: { path: { id: note.id } }, body: { unsure: !note.unsure } })),
  );
  const any = chosen.size > 0;
  const acts: ChosenNotesActs = { tag: () => setTagging(true), none: () => setChosen(new Set()) };
  usePageActions(chosenNotes, any ? acts : null);
  if (!notes || !sources || !people || !tags) return <Waiting problem={error} />;
  if (notes.length === 0 && !where)
    return (
      <Empty
        title="No notes yet"
        sample="“Which lamp does she mean? Ask Wren.”"
        action={
          <Link
            to="/studies/$studyId/mark"
            params={path}
            className="inline-flex min-h-8 items-center rounded-std bg-verdigris px-3 font-medium text-on-verdigris"
          >
            Read and remark
          </Link>
        }
      >
        While you read, select some words and press m: the note stands in the margin, and here. Tag it later, or never.
      </Empty>
    );
  const change = (part: { [K in keyof Listing]?: Listing[K] | undefined }) =>
    void navigate({
      to: '/studies/$studyId/mark/notes',
      params: path,
      search: (now) => Object.fromEntries(Object.entries({ ...now, ...part }).filter(([, value]) => value !== undefined && value !== '')),
      replace: true,
    });
  const shown = listed(notes, listing);
  const inMargin = shown.filter((n) => n.on === 'marginNote').map((n) => n.id);
  const picked = notes.filter((n) => n.on === 'marginNote' && chosen.has(n.id)).map((n) => n.id);
  const title = (id: number) => sources.find((s) => s.id === id)?.title ?? '';
  const who = (id: number | null) => people.find((p) => p.id === id);
  const choose = (id: number) => setChosen(new Set(chosen.has(id) ? [...chosen].filter((x) => x !== id) : [...chosen, id]));
  return (
    <div className="mx-auto flex h-full max-w-[900px] flex-col px-5 pt-6">
      <div className="flex items-baseline gap-3">
        <h1 className="font-read text-[22px] font-semibold">Notes</h1>
        <span className="text-ink-soft">
          {shown.length === notes.length ? count(notes.length, 'note') : `${shown.length} of ${count(notes.length, 'note')}`}
        </span>
        <input
          aria-label="Find in the notes"
          placeholder="Find in the notes"
          value={listing.words ?? ''}
          onChange={(e) => change({ words: e.target.value })}
          className="ml-auto w-[200px] rounded-std border border-line bg-case px-2.5 py-1 text-[13px] placeholder:text-ink-soft"
        />
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-x-3 border-b border-line pb-2 text-[12.5px] text-ink-soft">
        <FilterLine studyId={studyId} where={where} onWhere={setWhere}>
          <Word label={listing.kind ? kindWords[listing.kind] : 'all notes'} set={listing.kind !== undefined}>
            {(Object.keys(kindWords) as Kind[]).map((k) => (
              <Box key={k} label={`Only ${kindWords[k]}`} on={listing.kind === k} onChange={() => change({ kind: listing.kind === k ? undefined : k })} />
            ))}
          </Word>
        </FilterLine>
        {inMargin.length > 1 && (
          <button type="button" className="ml-auto min-h-6 text-sky hover:underline" onClick={() => setChosen(new Set(inMargin))}>
            Choose all {inMargin.length} margin notes
          </button>
        )}
      </div>
      {shown.length === 0 ? (
        <p className="py-6 text-ink-soft">
          No note is like that.{' '}
          <button
            type="button"
            className="text-sky hover:underline"
            onClick={() => {
              change({ kind: undefined, words: undefined });
              setWhere({});
            }}
          >
            Show all
          </button>
        </p>
      ) : (
        <LongList label="Notes" items={shown} keyOf={keyOf} height={92} className="min-h-0 flex-1 pb-8">
          {(n, i) => (
            <div className={i > 0 && shown[i - 1]!.sourceId === n.sourceId ? 'border-t border-line' : ''}>
              {shown[i - 1]?.sourceId !== n.sourceId && (
                <h2 className="border-b border-line pt-4 pb-1 text-[12.5px] font-semibold text-ink-soft">{title(n.sourceId)}</h2>
              )}
              <div className="grid grid-cols-[24px_minmax(0,1fr)_150px] gap-x-3 py-2.5 text-[13px]">
                {n.on === 'marginNote' ? (
                  <input
                    type="checkbox"
                    aria-label={`Choose “${n.words}”`}
                    checked={chosen.has(n.id)}
                    onChange={() => choose(n.id)}
                    className="mt-1 size-4 accent-verdigris"
                  />
                ) : (
                  <span />
                )}
                <div className="min-w-0">
                  {n.words !== '' && (
                    <p className={`font-read text-[15.5px] leading-[23px] wrap-anywhere whitespace-pre-wrap ${n.on === 'marginNote' ? 'italic' : ''}`}>
                      {n.words}
                    </p>
                  )}
                  <p className="mt-0.5 line-clamp-2 wrap-anywhere text-ink-soft">
                    {who(n.participantId) && <span className="font-medium text-ink">{who(n.participantId)!.pseudonym} </span>}
                    {n.quote !== '' && `“${n.quote}”`}
                  </p>
                  {n.tagIds.length > 0 && (
                    <p className="mt-1.5 flex flex-wrap gap-1.5">
                      {n.tagIds.map((id) => (
                        <TagLabel key={id} look={look(id)} />
                      ))}
                    </p>
                  )}
                </div>
                <div className="flex flex-col items-start text-[12px] text-ink-soft">
                  <span title={moment(n.createdAt)}>{n.createdBy}</span>
                  <Link
                    to="/studies/$studyId/mark"
                    params={path}
                    search={{
                      source: n.sourceId,
                      ...(n.on === 'observation' ? { at: n.id } : n.anchor.kind === 'text' ? { place: n.anchor.start } : {}),
                    }}
                    className="min-h-6 text-sky hover:underline"
                  >
                    Open in place
                  </Link>
                  <button
                    type="button"
                    aria-pressed={n.unsure}
                    className={`inline-flex min-h-6 items-center gap-1 hover:text-ink ${n.unsure ? 'text-brass' : ''}`}
                    onClick={() => unsure.mutate(n)}
                  >
                    <CircleDashed className="size-3.5" /> {n.unsure ? 'unsure' : 'sure'}
                  </button>
                </div>
              </div>
            </div>
          )}
        </LongList>
      )}
      {picked.length > 0 && (
        <div role="group" aria-label="Chosen notes" className="relative flex items-center gap-2 border-t border-line bg-case px-3 py-2 text-[13px]">
          <span className="mr-2 font-medium">{count(picked.length, 'margin note')} chosen</span>
          <ActionButton action={chosenNotes.actions.tag} on={acts} look="main" />
          <Button
            look="quiet"
            className="hover:!text-oxblood"
            onClick={() => {
              remove.mutate(picked);
              setChosen(new Set());
            }}
          >
            Remove
          </Button>
          <ActionButton action={chosenNotes.actions.none} on={acts} look="quiet" className="ml-auto" />
          {tagging && (
            <div className="absolute bottom-full left-3 mb-2">
              <TagLine
                tags={tags}
                look={look}
                recent={[]}
                onDone={(tagIds, newTags) => {
                  setTagging(false);
                  if (tagIds.length + newTags.length === 0) return;
                  turn.mutate({ marginNoteIds: picked, tagIds, newTags }, { onSuccess: () => setChosen(new Set()) });
                }}
                onCancel={() => setTagging(false)}
              />
            </div>
          )}
        </div>
      )}
    </div>
  );
}
