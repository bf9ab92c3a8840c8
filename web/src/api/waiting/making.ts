let last = 0;

/** A number for what the server has not seen: negative, and never twice. */
export const ownNumber = () => (last = Math.min(last - 1, -Date.now()));

/** Words as they stand in the list of what waits. */
export const shortened = (words: string) => (words.length > 60 ? `${words.slice(0, 60)}…` : words);
