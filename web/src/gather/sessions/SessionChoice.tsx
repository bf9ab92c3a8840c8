import { useQuery } from '@tanstack/react-query';
import { queries } from '@/api/queries';
import { Choice } from '@/parts/Field';
import { day } from '@/parts/words';

interface Props {
  studyId: number;
  value: string;
  onChange: (event: { target: { value: string } }) => void;
}

/** The session that material comes of, or none. */
export function SessionChoice({ studyId, value, onChange }: Props) {
  const sessions = useQuery(queries.sessions(studyId)).data ?? [];
  return (
    <Choice label="Session" value={value} onChange={onChange}>
      <option value="">none</option>
      {sessions.map((s) => (
        <option key={s.id} value={s.id}>
          {s.title}
          {s.heldOn && `, ${day(s.heldOn)}`}
        </option>
      ))}
    </Choice>
  );
}
