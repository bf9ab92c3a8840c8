interface Bar {
  name: string;
  count: number;
  /** It stands for what was not given. */
  faint?: boolean;
}

const most = 20;

/** A small chart: as many dots as there are observations; of more than fit, each dot stands for several, and it is said. */
export function Bars({ of }: { of: readonly Bar[] }) {
  const each = Math.max(1, Math.ceil(Math.max(...of.map((b) => b.count)) / most));
  return (
    <>
      <table className="w-full text-[13px]">
        <tbody>
          {of.map((b) => (
            <tr key={b.name} className="align-middle">
              <th scope="row" className="max-w-[120px] py-0.5 pr-2 text-left font-normal">
                {b.name}
              </th>
              <td className="w-[124px] py-0.5">
                <span aria-hidden className="flex flex-wrap gap-[2px]">
                  {Array.from({ length: Math.ceil(b.count / each) }, (_, i) => (
                    <span key={i} className={`size-[10px] rounded-full ${b.faint ? 'border border-line' : 'bg-verdigris'}`} />
                  ))}
                </span>
              </td>
              <td className="w-8 py-0.5 text-right text-ink-soft">{b.count}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {each > 1 && <p className="text-[12px] text-ink-soft">A dot stands for up to {each}.</p>}
    </>
  );
}
