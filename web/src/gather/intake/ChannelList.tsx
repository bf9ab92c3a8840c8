import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { api, ask, askOfFile, type Schemas } from '@/api/client';
import { Button } from '@/parts/Button';
import { Problem } from '@/parts/Field';
import { SecretLink } from '@/parts/SecretLink';
import { count } from '@/parts/words';

const kindWords: Record<Schemas['ChannelKind'], string> = {
  simulated: 'simulated: made-up messages that ship with Vitrine',
  feed: 'RSS and Atom files',
  mail: 'e-mail files',
  endpoint: 'another program, by its token',
};
const said = (a: Schemas['Arrival']) =>
  toast(
    `${count(a.added, 'new piece')} of feedback${a.known > 0 ? `, ${a.known} were here already` : ''}${a.routed > 0 ? `; ${a.routed} routed by watches` : ''}`,
  );

/** Where feedback arrives: files, an address for other programs, and the stand-in. */
export function ChannelList({ channels }: { channels: readonly Schemas['Channel'][] }) {
  const cache = useQueryClient();
  const [name, setName] = useState('');
  const [token, setToken] = useState<string | null>(null);
  const done = () => cache.invalidateQueries();
  const next = useMutation({
    mutationFn: () => ask(api.POST('/api/intake/simulated/next', { params: { query: { count: 1 } } })),
    onSuccess: (arrival) => {
      said(arrival);
      return done();
    },
    onError: (problem) => void toast.error(problem.message),
  });
  const make = useMutation({
    mutationFn: () => ask(api.POST('/api/intake/channels', { body: { name } })),
    onSuccess: (made) => {
      setToken(made.token);
      setName('');
      return done();
    },
  });
  const end = useMutation({
    mutationFn: (channelId: number) => ask(api.POST('/api/intake/channels/{channelId}/end', { params: { path: { channelId } } })),
    onSuccess: () => {
      toast('Its token is taken no more; what arrived stays');
      return done();
    },
  });
  const add = async (files: readonly File[]) => {
    for (const file of files) {
      await askOfFile<Schemas['Arrival']>('/api/intake/files', file).then(said, (problem: Error) => toast.error(`${file.name}: ${problem.message}`));
    }
    await done();
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    make.mutate();
  };
  return (
    <section aria-label="Channels">
      <h2 className="mb-2 text-[14px] font-semibold">Channels</h2>
      <ul className="mb-3">
        {channels.map((c) => (
          <li key={c.id} className="flex items-baseline gap-2 border-t border-line py-2">
            <span className="min-w-0 flex-1">
              <span className="block truncate font-medium">{c.name}</span>
              <span className="block text-[12.5px] text-ink-soft">
                {kindWords[c.kind]}, {count(c.items, 'piece')}
              </span>
            </span>
            {c.kind === 'simulated' && (
              <Button className="!min-h-7" onClick={() => next.mutate()} disabled={next.isPending}>
                Next message
              </Button>
            )}
            {c.kind === 'endpoint' && (
              <Button look="quiet" className="!min-h-7" onClick={() => end.mutate(c.id)}>
                End its token
              </Button>
            )}
          </li>
        ))}
      </ul>
      <label className="inline-flex min-h-8 cursor-pointer items-center rounded-std border border-line bg-case px-3 text-[13px] font-medium focus-within:outline-2 focus-within:outline-verdigris hover:bg-wash">
        Add feed or e-mail files
        <input
          type="file"
          multiple
          accept=".xml,.rss,.atom,.eml"
          aria-label="Feed or e-mail files to add"
          className="sr-only"
          onChange={(e) => {
            const files = [...(e.target.files ?? [])];
            e.target.value = '';
            void add(files);
          }}
        />
      </label>
      <form onSubmit={submit} className="mt-4 border-t border-line pt-3">
        <label htmlFor="channel-name" className="mb-1 block text-[13px] font-medium">
          An address for another program
        </label>
        <div className="flex gap-2">
          <input
            id="channel-name"
            placeholder="App reviews"
            value={name}
            onChange={(e) => setName(e.target.value)}
            className="min-h-8 min-w-0 flex-1 rounded-std border border-line bg-case px-2.5"
          />
          <Button type="submit" disabled={make.isPending || name.trim() === ''}>
            Make
          </Button>
        </div>
        <div className="mt-2">
          <Problem of={make.error} />
        </div>
      </form>
      {token && (
        <div className="mt-2 rounded-std border border-brass bg-brass-wash p-3 text-[12.5px]">
          <p className="mb-1.5">This token is shown once. Another program sends with it like this:</p>
          <SecretLink
            label="How to send"
            address={`curl -X POST ${window.location.origin}/api/intake/items -H "Authorization: Bearer ${token}" -H "Content-Type: application/json" -d '{"text": "No boat today."}'`}
          />
        </div>
      )}
    </section>
  );
}
