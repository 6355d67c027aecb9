// What pages ask of the engine while Vite draws them: the engine is another process then, and its desks' snapshot has it all.
import { WebSocket } from 'ws';

/** The snapshot that a desk begins with. */
function snapshot() {
  const url = `${process.env.FOOTHILL_ENGINE.replace('http', 'ws')}/socket?stream=desk`;
  return new Promise((done, failed) => {
    const socket = new WebSocket(url);
    socket.on('error', failed);
    socket.on('message', (data) => {
      const message = JSON.parse(String(data));
      if (message.t !== 'snapshot') return;
      socket.terminate();
      done(message.body);
    });
  });
}

export async function onRequest(context, next) {
  const { fontsOf } = await import('../src/core/media/fonts.ts');
  const { documents, game, media } = await snapshot();
  const byKey = (list) => new Map(list.map((doc) => [doc.key, doc]));
  context.locals.engine = {
    world: {
      documents: Object.fromEntries(Object.entries(documents).map(([kind, list]) => [kind, byKey(list)])),
      game,
    },
    library: { fonts: () => [...fontsOf(media).keys()] },
  };
  return next();
}
