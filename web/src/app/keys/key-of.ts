/** A key as actions name it: as `KeyboardEvent.key` says it, letters in lower case. */
export const keyOf = ({ key }: KeyboardEvent): string => (key.length === 1 ? key.toLowerCase() : key);
