import { addressOf, KeptFile } from './KeptFile';
import type { MaterialProps } from './material';

export const Picture = ({ source }: MaterialProps) => (
  <KeptFile source={source}>
    <img src={addressOf(source)} alt={source.line.title} className="max-h-[65vh] max-w-full rounded-std border border-line" />
  </KeptFile>
);
