import { toast } from 'sonner';
import { Button } from './Button';

/** A link that is shown this once, to be copied. */
export function SecretLink({ label, address }: { label: string; address: string }) {
  return (
    <div className="flex gap-2">
      <input
        aria-label={label}
        readOnly
        value={address}
        onFocus={(e) => e.target.select()}
        className="min-w-0 flex-1 rounded-std border border-line bg-case px-2 py-1 text-[12.5px]"
      />
      <Button onClick={() => void navigator.clipboard.writeText(address).then(() => toast('The link is copied.'))}>Copy</Button>
    </div>
  );
}
