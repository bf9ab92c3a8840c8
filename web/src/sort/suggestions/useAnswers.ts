import { useState } from 'react';
import { api, ask, oneStep } from '@/api/client';
import { outgoing } from '@/api/waiting/outgoing';
import { useWrite } from '@/api/useWrite';
import type { Given, Item } from './walk';

interface Answers {
  items: readonly Item[];
  answer: Given['answer'];
  /** The group that is meant; null for the one in which each lies. */
  groupId: number | null;
}

/** Answers suggestions: shown at once, sent in turn; a refusal is said, and what was refused stands there again. */
export function useAnswers(suggestionId: number) {
  const [given, setGiven] = useState<ReadonlyMap<number, Given>>(new Map());
  const path = { id: suggestionId };
  const send = useWrite(
    async ({ items, answer, groupId }: Answers) => {
      // A claim that was written before is there first.
      await outgoing.acknowledged();
      return ask(
        api.POST('/api/suggestions/{id}/answers', {
          params: { path },
          body: { answer, items: items.map((item) => ({ suggestedItemId: item.id, suggestedGroupId: groupId ?? item.groupId })) },
        }),
      );
    },
    { quiet: true },
  );
  const sendAll = useWrite(async ({ items, title, isTheme }: { items: readonly Item[]; title: string; isTheme: boolean }) => {
    const headers = oneStep();
    const { id } = await ask(api.POST('/api/suggestions/{id}/groups', { params: { path }, headers }));
    await ask(api.PUT('/api/suggested-groups/{id}/title', { params: { path: { id: id! } }, headers, body: { was: '', text: title } }));
    return ask(
      api.POST('/api/suggestions/{id}/answers', {
        params: { path },
        headers,
        body: { answer: isTheme ? 'accepted' : 'open', items: items.map((item) => ({ suggestedItemId: item.id, suggestedGroupId: id })) },
      }),
    );
  });
  return {
    given,
    answer: async (of: Answers) => {
      const mine = of.items.map((item) => [item.id, { answer: of.answer, groupId: of.groupId }] as const);
      setGiven((all) => new Map([...all, ...mine]));
      await send.mutateAsync(of).catch(() => undefined);
      setGiven((all) => new Map([...all].filter(([id, one]) => !mine.some(([own, its]) => own === id && its === one))));
    },
    /** Puts something into a group of its own, which is a theme at once where things are placed. */
    intoNew: (item: Item, title: string, isTheme: boolean) => sendAll.mutate({ items: [item], title, isTheme }),
  };
}
