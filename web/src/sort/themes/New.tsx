/** Says that something has come since one’s last look. */
export const New = ({ many }: { many?: number }) => <span className="font-semibold text-brass">{many === undefined ? 'new' : `${many} new`}</span>;

/** Says who else has something in hand at the same table. */
export const InHandOf = ({ name }: { name: string | undefined }) =>
  name === undefined ? null : <span className="font-semibold text-sky">{name} has it in hand</span>;
