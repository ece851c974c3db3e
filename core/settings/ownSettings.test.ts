import { ownDifferences, proposedOwn, refuseOwn, type OwnSettings } from './ownSettings';

const takes = { idLength: 8, nameLength: 16, activates: ['PU', 'EXT'] };
const own: OwnSettings = { stationId: 'HUT-2', name: 'Inner bog hut', activated: ['PU'] };

test('what it takes, and by which sentence it takes no more', () => {
  expect(refuseOwn(own, takes)).toBeNull();
  expect(refuseOwn({ ...own, stationId: 'HUT 2' }, takes)).toMatchObject({ field: 'stationId' });
  expect(refuseOwn({ ...own, stationId: 'INNER-BOG-HUT' }, takes)!.detail).toBe(
    'The logger keeps 8 characters of its station ID; "INNER-BOG-HUT" has 13.',
  );
  expect(refuseOwn({ ...own, activated: ['T1'] }, takes)).toMatchObject({
    field: 'activated',
    value: 'T1',
    remedy: 'Choose from PU, EXT.',
  });
  expect(refuseOwn(own, { ...takes, activates: [] })).toMatchObject({ remedy: 'Leave it out.' });
});
test('the order of terminals is no difference', () => {
  const both = { ...own, activated: ['PU', 'EXT'] };
  expect(ownDifferences(both, { ...own, activated: ['EXT', 'PU'] })).toEqual([]);
  expect(ownDifferences(both, own)).toEqual([{ field: 'activated', wanted: 'EXT, PU', found: 'PU' }]);
});
test('what is proposed is always taken', () => {
  for (const name of ['A', 'A name longer than any logger keeps it', 'Ends in the   blank'])
    expect(refuseOwn(proposedOwn({ code: 'STATION-12345', name }, takes, ['EXT']), takes)).toBeNull();
});
