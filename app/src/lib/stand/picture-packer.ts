import PictureWorker from './picture.worker.ts?worker';

/** Packs pictures of a canvas in a worker: reading them back from the graphics card would hold the page up. */
export class PicturePacker {
  private worker: Worker | undefined;
  /** the picture before: the worker packs one at a time */
  private before: Promise<unknown> = Promise.resolve();

  /** The middle of a canvas as a JPEG of so many pixels, as a data address. */
  async pack(canvas: HTMLCanvasElement, width: number, height: number): Promise<string> {
    const scale = Math.min(canvas.width / width, canvas.height / height);
    const [w, h] = [Math.round(width * scale), Math.round(height * scale)];
    const [x, y] = [(canvas.width - w) >> 1, (canvas.height - h) >> 1];
    const bitmap = await createImageBitmap(canvas, x, y, w, h, { resizeWidth: width, resizeHeight: height, resizeQuality: 'medium' });
    const worker = (this.worker ??= new PictureWorker());
    const packed = this.before.then(
      () =>
        new Promise<string>((resolve, reject) => {
          worker.onmessage = ({ data }: MessageEvent<string>) => resolve(data);
          worker.onerror = (event) => reject(new Error(event.message));
          worker.postMessage(bitmap, [bitmap]);
        })
    );
    this.before = packed.catch(() => undefined);
    return packed;
  }

  end(): void {
    this.worker?.terminate();
  }
}
