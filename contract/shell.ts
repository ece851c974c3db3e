/** What a page says to a newer shell that waits: it may take over now. */
export const takeOverMessage = 'take over';
