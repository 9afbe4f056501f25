import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  type ElementRef,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { Router } from '@angular/router';
import { linkCode, linkScanned } from '@near-spoke/core/labels';
import type ReadCode from 'jsqr';

/** So often is the picture looked at. */
const EVERY_MS = 160;
/** A code on a label is read in a picture of this width; a wider one only takes longer. */
const WIDTH_PX = 720;

/** What a refusal of the camera means, in words. */
const TROUBLES: Readonly<Record<string, string>> = {
  NotAllowedError:
    'The browser was not allowed to use the camera. Allow it beside the address, then try again.',
  NotFoundError:
    'This device has no camera. A reader that types works on every page; or type the label above.',
  NotReadableError: 'Another program uses the camera. Close that, then try again.',
};
const INSECURE = 'Browsers give the camera only to pages over HTTPS, or on the machine itself.';
const OTHER = 'The camera could not be started. Try again, or type the label.';

/** Reads a label's code with the camera and opens its link. Nothing of the picture is kept or sent. */
@Component({
  selector: 'ns-camera-reader',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Read a label</h2>
    <mat-dialog-content>
      @if (trouble()) {
        <p role="alert">{{ trouble() }}</p>
      } @else {
        <p role="status">{{ said() }}</p>
      }
      <video #view muted playsinline aria-label="What the camera sees" [hidden]="trouble() !== ''"></video>
    </mat-dialog-content>
    <mat-dialog-actions>
      @if (trouble()) {
        <button matButton="outlined" (click)="start()">Try again</button>
      }
      <button matButton mat-dialog-close>Close</button>
    </mat-dialog-actions>
  `,
  styles: `
    video {
      width: 100%;
      max-height: 60vh;
      border-radius: var(--round);
      background: #000;
    }
    p {
      margin-bottom: 10px;
    }
  `,
})
export class CameraReader {
  private readonly router = inject(Router);
  private readonly dialog = inject(MatDialogRef);
  private readonly view = viewChild.required<ElementRef<HTMLVideoElement>>('view');
  private readonly canvas = document.createElement('canvas');
  protected readonly trouble = signal('');
  protected readonly said = signal('Hold the code of a label into the picture.');
  private stream: MediaStream | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private closed = false;

  constructor() {
    afterNextRender(() => void this.start());
    inject(DestroyRef).onDestroy(() => {
      this.closed = true;
      this.stop();
    });
  }

  protected async start(): Promise<void> {
    this.stop();
    this.trouble.set('');
    // Outside a secure page there is no such thing, whatever the types say.
    const devices = navigator.mediaDevices as MediaDevices | undefined;
    if (!devices) return this.trouble.set(INSECURE);
    try {
      const stream = await devices.getUserMedia({ video: { facingMode: 'environment' } });
      this.stream = stream;
      // The dialog may have been closed meanwhile: the camera is let go of at once.
      if (this.closed) return this.stop();
      const view = this.view().nativeElement;
      view.srcObject = stream;
      // Without sound a picture may move before anybody pressed a key; the attribute alone does not silence it.
      view.muted = true;
      await view.play();
      const { default: readCode } = await import('jsqr');
      const look = (): void => {
        if (this.closed) return;
        const text = this.seen(readCode);
        if (text !== null && this.open(text)) return;
        this.timer = setTimeout(look, EVERY_MS);
      };
      look();
    } catch (error) {
      this.stop();
      this.trouble.set(TROUBLES[(error as Error).name] ?? OTHER);
    }
  }

  /** The code in the picture of this moment. */
  private seen(readCode: typeof ReadCode): string | null {
    const view = this.view().nativeElement;
    if (view.videoWidth === 0) return null;
    const scale = Math.min(1, WIDTH_PX / view.videoWidth);
    const [width, height] = [Math.round(view.videoWidth * scale), Math.round(view.videoHeight * scale)];
    Object.assign(this.canvas, { width, height });
    const pen = this.canvas.getContext('2d', { willReadFrequently: true });
    if (!pen) return null;
    pen.drawImage(view, 0, 0, width, height);
    return readCode(pen.getImageData(0, 0, width, height).data, width, height)?.data ?? null;
  }

  private open(text: string): boolean {
    const linkId = linkScanned(text);
    if (linkId === null) {
      this.said.set('This code is no label of ours. Hold another into the picture.');
      return false;
    }
    this.dialog.close();
    void this.router.navigate(['/l', linkCode(linkId)]);
    return true;
  }

  private stop(): void {
    clearTimeout(this.timer);
    for (const track of this.stream?.getTracks() ?? []) track.stop();
    this.stream = null;
  }
}
