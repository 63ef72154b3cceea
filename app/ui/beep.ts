/** The tone that says that something is due. */
const TONE = { hertz: 880, seconds: 0.5, loudness: 0.2 } as const;

/** A tone where the browser has one to give; silence otherwise, the words stand on the page. */
export function beep({ hertz, seconds, loudness }: { hertz: number; seconds: number; loudness: number } = TONE): void {
  if (typeof AudioContext === "undefined") return;
  const audio = new AudioContext();
  const tone = audio.createOscillator();
  const volume = audio.createGain();
  tone.frequency.value = hertz;
  volume.gain.value = loudness;
  tone.connect(volume).connect(audio.destination);
  tone.onended = () => void audio.close();
  tone.start();
  tone.stop(audio.currentTime + seconds);
}
