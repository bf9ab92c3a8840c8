import { Link, useNavigate, useSearch } from '@tanstack/react-router';
import { Empty } from '@/parts/Empty';
import { HitWords } from '@/parts/HitWords';
import { foundKinds, foundWords, placeOf, type Hit } from './hits';
import { useHits } from './useHits';

/** Search over everything that one may see: hits in context, by kind, while typing. */
export function SearchPage() {
  const { typed = '', kind } = useSearch({ from: '/team/search' });
  const navigate = useNavigate();
  const { groups, error, busy } = useHits(typed, kind);
  const set = (next: { typed: string; kind?: typeof kind }) => void navigate({ to: '/search', search: next, replace: true });
  return (
    <main className="h-full overflow-y-auto border-t border-line">
      <div className="mx-auto max-w-[860px] px-6 py-8">
        <h1 className="sr-only">Search</h1>
        <input
          type="text"
          aria-label="Search everything"
          autoFocus
          placeholder="Words in sources, observations, tags, themes, insights and exhibits"
          value={typed}
          onChange={(e) => set({ typed: e.target.value, ...(kind ? { kind } : {}) })}
          className="w-full rounded-std border border-line bg-case px-4 py-2.5 font-read text-[19px] placeholder:text-ink-soft"
        />
        <div role="group" aria-label="Kinds" className="mt-3 flex flex-wrap gap-1">
          {[undefined, ...foundKinds].map((k) => (
            <button
              key={k ?? 'all'}
              type="button"
              aria-pressed={kind === k}
              onClick={() => set({ typed, ...(k ? { kind: k } : {}) })}
              className={`min-h-7 rounded-std px-2.5 text-[13px] ${kind === k ? 'bg-wash font-semibold' : 'text-ink-soft hover:bg-wash'}`}
            >
              {k ? foundWords[k] : 'Everything'}
            </button>
          ))}
        </div>
        {error && (
          <p role="alert" className="mt-6 text-oxblood">
            {error.message}
          </p>
        )}
        {typed.trim() === '' && (
          <Empty title="What are you looking for?" sample="kiosk “return ticket” cancel">
            Any words, in any form: cancel finds cancelled. Words in quotes stand next to each other. You find what is in the studies you may see.
          </Empty>
        )}
        {!busy && typed.trim() !== '' && groups.length === 0 && (
          <Empty title="Nothing has these words">Fewer or shorter words find more: all of them must be there, in one place.</Empty>
        )}
        {groups.map((group) => (
          <section key={group.kind} aria-label={foundWords[group.kind]} className="mt-7">
            <h2 className="mb-1 text-[13px] font-semibold text-ink-soft">{foundWords[group.kind]}</h2>
            <ul>
              {group.hits.map((hit) => (
                <Row key={`${hit.id} ${hit.at ?? ''}`} hit={hit} />
              ))}
            </ul>
          </section>
        ))}
      </div>
    </main>
  );
}

function Row({ hit }: { hit: Hit }) {
  const quoted = hit.kind === 'observation' || hit.kind === 'text';
  return (
    <li className="border-t border-line">
      <Link {...placeOf(hit)} className="block py-2.5 hover:bg-wash">
        {!quoted && <span className="block font-medium">{hit.name || hit.studyTitle}</span>}
        {hit.words && (
          <span className={`block ${quoted ? 'font-read text-[16px] leading-[1.5]' : 'text-[13px] text-ink-soft'}`}>
            <HitWords hit={hit} />
          </span>
        )}
        <span className="block text-[12px] text-ink-soft">
          {[quoted ? hit.name : '', hit.kind === 'study' ? '' : hit.studyTitle].filter(Boolean).join(', ')}
        </span>
      </Link>
    </li>
  );
}
