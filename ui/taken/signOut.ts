import { send } from '../shared/api';
import { dropTaken } from './taken';

/** Noted while a sign-out has not reached the server: without it the session cannot be ended. */
const place = 'outer-cairn signing out';

const note = (isOn: boolean): void => {
  try {
    if (isOn) localStorage.setItem(place, 'yes');
    else localStorage.removeItem(place);
  } catch {
    // Nothing is kept in this browser: then a sign-out without a signal is done again by hand.
  }
};
export const isSigningOut = (): boolean => {
  try {
    return localStorage.getItem(place) !== null;
  } catch {
    return false;
  }
};
/** Somebody signed in since. */
export const signedIn = (): void => note(false);

/**
 * Signs out: what is held of stops goes first, whatever the network does; without a signal the session ends
 * at the next contact. What waits to be sent stays.
 */
export async function signOut(): Promise<void> {
  note(true);
  await dropTaken();
  await send('DELETE', '/api/v1/session').then(
    () => note(false),
    () => undefined,
  );
  // A full load, so that nothing of the signed-in person stays in memory.
  window.location.replace('/sign-in');
}
