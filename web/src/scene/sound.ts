/** Sounds of a game: a short soft tone for each name, always the same one for the same name. */

const SECONDS = 0.14;
const LOUDNESS = 0.08;
/** A scale that no two tones of sound wrong together, in hertz. */
const TONES = [262, 294, 330, 392, 440, 523, 587, 659] as const;

let context: AudioContext | null = null;

export function playSound(name: string): void {
  try {
    context ??= new AudioContext();
    const tone = context.createOscillator();
    const volume = context.createGain();
    tone.type = "triangle";
    tone.frequency.value =
      TONES[Array.from(name).reduce((sum, letter) => sum + (letter.codePointAt(0) ?? 0), 0) % TONES.length] ?? TONES[0];
    volume.gain.setValueAtTime(LOUDNESS, context.currentTime);
    volume.gain.exponentialRampToValueAtTime(0.001, context.currentTime + SECONDS);
    tone.connect(volume).connect(context.destination);
    tone.start();
    tone.stop(context.currentTime + SECONDS);
  } catch {
    context = null; // a machine without sound: the sound is written beside the story
  }
}
