import { LONGEST_SPOKEN } from '$core/copy/said-file';

/** What browsers record, the most widely played first. */
const TYPES = ['audio/mp4;codecs=mp4a.40.2', 'audio/webm;codecs=opus', 'audio/ogg;codecs=opus'];
const ENDINGS: Record<string, string> = { 'audio/mp4': 'm4a', 'audio/ogg': 'ogg' };
/** Speech is well understood at this, in bits a second. */
const BITS = 32_000;

/** Records what somebody says, for as long as a spoken comment may be. */
export class Recorder {
  /** Seconds since it began; null while nothing is recorded. */
  seconds: number | null = $state(null);
  trouble = $state('');
  private running: MediaRecorder | null = null;
  /** Whether somebody is asked for their microphone, and still wants to speak. */
  private asking = false;
  private timer: ReturnType<typeof setInterval> | undefined;

  /** @param done gets what was recorded */
  constructor(private readonly done: (file: File) => void) {}

  async begin(): Promise<void> {
    if (this.asking || this.running) return;
    this.trouble = '';
    if (!('mediaDevices' in navigator) || typeof MediaRecorder === 'undefined') {
      this.trouble = 'This browser cannot record. Please write instead, or add a sound file.';
      return;
    }
    let stream: MediaStream;
    this.asking = true;
    try {
      stream = await navigator.mediaDevices.getUserMedia({ audio: true });
    } catch {
      this.asking = false;
      this.trouble =
        'Uncia does not hear a microphone. Please allow it in your browser, or write instead.';
      return;
    }
    // Whoever went on to another copy while they were asked is not listened to.
    const isWanted = this.asking;
    this.asking = false;
    if (!isWanted) return stream.getTracks().forEach((track) => track.stop());
    const mimeType = TYPES.find((type) => MediaRecorder.isTypeSupported(type));
    const running = new MediaRecorder(stream, { mimeType, audioBitsPerSecond: BITS });
    const pieces: Blob[] = [];
    running.ondataavailable = ({ data }) => pieces.push(data);
    running.onstop = () => {
      clearInterval(this.timer);
      for (const track of stream.getTracks()) track.stop();
      this.seconds = null;
      const isKept = this.running === running;
      this.running = null;
      const type = running.mimeType.split(';')[0] ?? '';
      if (isKept) this.done(new File(pieces, `spoken.${ENDINGS[type] ?? 'webm'}`, { type }));
    };
    this.running = running;
    const began = performance.now();
    this.seconds = 0;
    this.timer = setInterval(() => {
      this.seconds = Math.floor((performance.now() - began) / 1000);
      if (this.seconds >= LONGEST_SPOKEN) this.stop();
    }, 250);
    running.start();
  }

  stop(): void {
    this.running?.stop();
  }

  /** Stops, and forgets what was said. */
  drop(): void {
    this.asking = false;
    const { running } = this;
    this.running = null;
    running?.stop();
  }
}
