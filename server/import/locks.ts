/** Classes of advisory locks: what is stored at a station, and an import that runs. */
export const stationLock = 4712;
export const importLock = 4713;
