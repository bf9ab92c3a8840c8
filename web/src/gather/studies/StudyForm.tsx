import { useState, type FormEvent } from 'react';
import type { Schemas } from '@/api/client';
import { ChangedMeanwhile } from '@/parts/ChangedMeanwhile';
import { Problem, TextArea, TextField } from '@/parts/Field';
import { FormEnd } from '@/parts/FormEnd';

interface Props {
  text?: Schemas['StudyText'];
  problem: Error | null;
  save: string;
  onSave: (text: Schemas['StudyText']) => void;
  onCancel: () => void;
}

const lines = (text: Schemas['StudyText']) => text.researchQuestions.join('\n');

export function StudyForm({ text, problem, save, onSave, onCancel }: Props) {
  const [was] = useState(text);
  const [title, setTitle] = useState(text?.title ?? '');
  const [purpose, setPurpose] = useState(text?.purpose ?? '');
  const [method, setMethod] = useState(text?.method ?? '');
  const [questions, setQuestions] = useState(text ? lines(text) : '');
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onSave({ title, purpose, method, researchQuestions: questions.split('\n').filter((q) => q.trim() !== '') });
  };
  return (
    <form onSubmit={submit}>
      <Problem of={problem} />
      {text && was && (
        <ChangedMeanwhile
          texts={[
            { label: 'Title', was: was.title, now: text.title, mine: title, take: setTitle },
            { label: 'Purpose', was: was.purpose, now: text.purpose, mine: purpose, take: setPurpose },
            { label: 'Research questions', was: lines(was), now: lines(text), mine: questions, take: setQuestions },
            { label: 'Method', was: was.method, now: text.method, mine: method, take: setMethod },
          ]}
        />
      )}
      <TextField label="Title" autoFocus value={title} onChange={(e) => setTitle(e.target.value)} />
      <TextArea label="Purpose" hint="Why it is done, and who waits for it." rows={3} value={purpose} onChange={(e) => setPurpose(e.target.value)} />
      <TextArea
        label="Research questions"
        hint="What it sets out to learn, one question per line."
        rows={4}
        value={questions}
        onChange={(e) => setQuestions(e.target.value)}
      />
      <TextField label="Method" hint="Such as: interviews at home, kiosk tests, a survey." value={method} onChange={(e) => setMethod(e.target.value)} />
      <FormEnd save={save} onLeave={onCancel} />
    </form>
  );
}
