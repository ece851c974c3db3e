import { redraw, workerReady, type RedrawOrder } from './redraw';

/** Redraws in a thread of its own: a large picture takes a second, and the page stays awake. */
self.postMessage(workerReady);
self.addEventListener('message', (event: MessageEvent<RedrawOrder>) => {
  void redraw(event.data).then((said) => self.postMessage(said));
});
