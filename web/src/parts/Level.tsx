import type { Schemas } from '@/api/client';
import { levelWords } from './words';

const tones: Record<Schemas['EvidenceLevel'], string> = {
  noEvidence: 'text-ink-soft',
  singleVoice: 'text-brass',
  echoed: 'text-ink',
  corroborated: 'text-verdigris',
  contested: 'text-oxblood',
};

const reasons: Record<Schemas['EvidenceLevel'], string> = {
  noEvidence: 'no identified person supports or contradicts it yet',
  singleVoice: 'support from one person',
  echoed: 'two or more people, but one kind of source, or fewer than three people',
  corroborated: 'three or more people, and two or more kinds of source or studies',
  contested: 'people contradicting are at least a quarter of all people with evidence',
};

/** The evidence level in words; what makes it stands in its hint. */
export function Level({ of }: { of: Schemas['EvidenceLevel'] }) {
  return (
    <span className={`font-semibold ${tones[of]}`} title={`${levelWords[of]}: ${reasons[of]}`}>
      {levelWords[of]}
    </span>
  );
}
