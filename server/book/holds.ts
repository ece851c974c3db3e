/** Of an entry that holds: nobody has taken it back yet. */
export const holds = { takenBackAt: null, takenBackBy: null, takenBackReason: null } as const;
