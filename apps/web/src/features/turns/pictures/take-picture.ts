/** A picture of a window or screen that the tester picks; undefined when she picks none. Rejects where the browser cannot. */
export async function takePicture(): Promise<File | undefined> {
  const devices = navigator.mediaDevices as MediaDevices | undefined;
  if (!devices || !('getDisplayMedia' in devices)) throw new Error('This browser cannot take pictures of windows. Paste one with Ctrl V.');
  const stream = await devices.getDisplayMedia({ video: true, audio: false }).catch((error: unknown) => {
    // She has picked nothing.
    if (error instanceof DOMException && error.name === 'NotAllowedError') return undefined;
    throw error;
  });
  if (!stream) return undefined;
  try {
    const video = window.document.createElement('video');
    video.srcObject = stream;
    video.muted = true;
    await video.play();
    const canvas = window.document.createElement('canvas');
    canvas.width = video.videoWidth;
    canvas.height = video.videoHeight;
    canvas.getContext('2d')?.drawImage(video, 0, 0);
    const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, 'image/png'));
    if (!blob) throw new Error('The picture could not be taken.');
    return new File([blob], `picture-${new Date().toISOString().slice(11, 19).replaceAll(':', '')}.png`, { type: 'image/png' });
  } finally {
    for (const track of stream.getTracks()) track.stop();
  }
}
