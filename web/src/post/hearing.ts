import { habitOf, keepHabit } from "../ui/habit";

/** How this browser tells of a message besides the line on the screen; kept here, for another browser stands in another room. */
export type Hearing = { browser: boolean; sound: boolean };

const KEPT = "froe-hearing";

export function hearing(): Hearing {
  try {
    return { browser: false, sound: false, ...(JSON.parse(habitOf(KEPT) ?? "{}") as Partial<Hearing>) };
  } catch {
    return { browser: false, sound: false };
  }
}

/** Keeps it; the browser's own notices need its leave, without which they stay off. */
export async function keepHearing(wanted: Hearing): Promise<Hearing> {
  const may = wanted.browser && "Notification" in window && (await Notification.requestPermission()) === "granted";
  const kept = { ...wanted, browser: may };
  keepHabit(KEPT, JSON.stringify(kept));
  return kept;
}

/** Tells of a message as this browser was asked to. */
export function heard(subject: string, body: string) {
  const { browser, sound } = hearing();
  if (browser && "Notification" in window && Notification.permission === "granted")
    new Notification(subject, { body: body.slice(0, 200), tag: "froe" });
  if (sound) chime();
}

/** One short, low note. */
function chime() {
  const audio = new AudioContext();
  const [note, loudness] = [audio.createOscillator(), audio.createGain()];
  note.frequency.value = 523;
  loudness.gain.setValueAtTime(0.12, audio.currentTime);
  loudness.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + 0.5);
  note.connect(loudness).connect(audio.destination);
  note.start();
  note.stop(audio.currentTime + 0.5);
  note.onended = () => void audio.close();
}
