import type * as THREE from 'three';
import type { EyeControl } from './eye-control.ts';
import type { Rect, Subject } from './framing.ts';
import PictureWorker from './picture.worker.ts?worker';

/** What of a canvas lies beside its middle of some pixels, in pixels of the page. */
function outside({ width, height }: HTMLCanvasElement, ratio: number, w: number, h: number): Rect[] {
  const [right, bottom] = [width / ratio, height / ratio];
  const [aside, above] = [(width - w) / 2 / ratio, (height - h) / 2 / ratio];
  return [
    { left: 0, top: 0, right, bottom: above },
    { left: 0, top: bottom - above, right, bottom },
    { left: 0, top: 0, right: aside, bottom },
    { left: right - aside, top: 0, right, bottom }
  ];
}

/** Takes pictures of a view, and packs them in a worker: reading them back from the graphics card would hold the page up. */
export class PicturePacker {
  private worker: Worker | undefined;
  /** the picture before: the worker packs one at a time */
  private before: Promise<unknown> = Promise.resolve();

  /**
   * A JPEG of all that stands there, whole and in the middle, from where the eye looks, as a data address.
   * The view is as it was when this returns.
   * @param size pixels across and down
   */
  async take(
    renderer: THREE.WebGLRenderer,
    scene: THREE.Scene,
    eyes: EyeControl,
    all: Subject | undefined,
    size: [width: number, height: number]
  ): Promise<string> {
    const [canvas, [width, height]] = [renderer.domElement, size];
    const scale = Math.min(canvas.width / width, canvas.height / height);
    const [w, h] = [Math.round(width * scale), Math.round(height * scale)];
    const [x, y] = [(canvas.width - w) >> 1, (canvas.height - h) >> 1];
    renderer.render(scene, all ? eyes.cameraOn(all, outside(canvas, renderer.getPixelRatio(), w, h)) : eyes.camera);
    const taken = createImageBitmap(canvas, x, y, w, h, { resizeWidth: width, resizeHeight: height, resizeQuality: 'medium' });
    renderer.render(scene, eyes.camera);
    const bitmap = await taken;
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
