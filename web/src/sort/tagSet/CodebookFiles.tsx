import { useState } from 'react';
import { Box, Word } from '@/parts/WordChoices';

const formats = { docx: 'Word (.docx)', xlsx: 'Spreadsheet (.xlsx)', csv: 'Table (.csv)', md: 'Markdown (.md)', qdc: 'Open exchange format (.qdc)' };

/** The tags of a study with what they mean, as a file to hand out. */
export function CodebookFiles({ studyId }: { studyId: number }) {
  const [quotes, setQuotes] = useState(true);
  return (
    <Word label="codebook" set={false}>
      <p className="px-1.5 pb-1 text-ink-soft">Every tag with what it is, what it is not, its counts and its example quotes.</p>
      {Object.entries(formats).map(([format, words]) => (
        <a
          key={format}
          download
          href={`/api/studies/${studyId}/codebook?format=${format}&quotes=${quotes}`}
          className="block min-h-7 rounded-[4px] px-1.5 py-1 text-sky hover:bg-wash"
        >
          {words}
        </a>
      ))}
      <div className="mt-1 border-t border-line pt-1">
        <Box label="With example quotes" on={quotes} onChange={() => setQuotes(!quotes)} />
      </div>
    </Word>
  );
}
