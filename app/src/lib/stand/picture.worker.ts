/** Packs one picture after the other; see `PicturePacker`. */
self.onmessage = async ({ data: bitmap }: MessageEvent<ImageBitmap>) => {
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height);
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0);
  bitmap.close();
  const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.8 });
  const reader = new FileReader();
  reader.onload = () => self.postMessage(reader.result);
  reader.readAsDataURL(blob);
};
