import type { Page } from '@playwright/test';

/** A loop as a browser records it, 64 × 32 px, of so many pictures at 20 a second; its colour goes on evenly. */
export async function recordedLoop(page: Page, pictures: number) {
  const bytes = await page.evaluate(async (count) => {
    const canvas = Object.assign(document.createElement('canvas'), { width: 64, height: 32 });
    const pen = canvas.getContext('2d')!;
    const recorder = new MediaRecorder(canvas.captureStream(20), { mimeType: 'video/webm' });
    const parts: Blob[] = [];
    recorder.ondataavailable = (e) => parts.push(e.data);
    recorder.start();
    for (let i = 0; i < count; i++) {
      pen.fillStyle = `hsl(${i * 20} 80% 50%)`;
      pen.fillRect(0, 0, 64, 32);
      await new Promise((done) => setTimeout(done, 50));
    }
    const ended = new Promise((done) => (recorder.onstop = done));
    recorder.stop();
    await ended;
    return [...new Uint8Array(await new Blob(parts).arrayBuffer())];
  }, pictures);
  return { name: 'loop.webm', mimeType: 'video/webm', buffer: Buffer.from(bytes) };
}
