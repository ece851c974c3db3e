/** Class of the advisory lock of an import that runs. */
export const importLock = 4713;
