import { claimOf } from '@/shared/claim';
import { useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { queries } from '@/api/queries';
import { ActionButton } from '@/parts/actions/ActionButton';
import { usePageActions } from '@/parts/actions/registry';
import { TagLine } from '@/parts/TagLine';
import type { TagLook, TagUse } from '@/parts/tagLook';
import { Choices, Word } from '@/parts/WordChoices';
import { chosen as chosenActions, type ChosenActs } from './actions';

export interface TagsGiven {
  tagIds: number[];
  newTags: string[];
}

interface Props {
  studyId: number;
  label: string;
  /** How many are chosen, in words. */
  chosen: string;
  tags: readonly TagUse[];
  look: (id: number) => TagLook;
  /** What stands in the tag line before anything is typed. */
  before?: TagsGiven;
  onTag: (given: TagsGiven) => void;
  onTheme: (themeId: number) => void;
  onInsight: () => void;
  onNone: () => void;
  children?: ReactNode;
}

/** What can be done with what is chosen: a tag, a theme, an insight, each as one step. */
export function ChosenBar({ studyId, label, chosen, tags, look, before, onTag, onTheme, onInsight, onNone, children }: Props) {
  const [tagging, setTagging] = useState(false);
  const themes = useQuery(queries.sorting(studyId)).data?.themes ?? [];
  const acts: ChosenActs = { tag: () => setTagging(true), insight: onInsight, none: onNone };
  usePageActions(chosenActions, acts);
  return (
    <div role="group" aria-label={label} className="relative flex flex-wrap items-center gap-x-3 gap-y-1.5 border-t border-line bg-case px-3 py-2 text-[13px]">
      <span className="font-medium">{chosen}</span>
      <ActionButton action={chosenActions.actions.tag} on={acts} look="main" />
      <ActionButton action={chosenActions.actions.insight} on={acts} />
      {themes.length > 0 && (
        <Word label="put in a theme" set={false}>
          <Choices
            find="Find a theme"
            choices={themes.map((t) => ({ key: String(t.theme.id), label: claimOf(t.theme), on: false, onChange: () => onTheme(t.theme.id) }))}
          />
        </Word>
      )}
      {children}
      <ActionButton action={chosenActions.actions.none} on={acts} look="quiet" className="ml-auto" />
      {tagging && (
        <div className="absolute bottom-full left-3 mb-2">
          <TagLine
            tags={tags}
            look={look}
            recent={[]}
            {...(before && { before })}
            onDone={(tagIds, newTags) => {
              setTagging(false);
              if (tagIds.length + newTags.length > 0) onTag({ tagIds, newTags });
            }}
            onCancel={() => setTagging(false)}
          />
        </div>
      )}
    </div>
  );
}
