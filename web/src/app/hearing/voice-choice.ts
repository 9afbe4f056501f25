import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { Preferences } from '../preferences/preferences';
import { Speaking } from './speaking';

const PACES = [
  { rate: 0.8, words: 'Slow' },
  { rate: 1.1, words: 'Usual' },
  { rate: 1.5, words: 'Quick' },
] as const;
/** What a voice is tried with. */
const TRIAL = 'A 3, to B 7';

/** How touches are read aloud: pace, and one of the browser's voices. */
@Component({
  selector: 'ns-voice-choice',
  imports: [MatButtonModule, MatButtonToggleModule, MatFormFieldModule, MatSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-button-toggle-group
      aria-label="How quickly touches are read"
      [value]="preferences.speechRate()"
      (change)="preferences.speakAt($event.value); speaking.say(trial)"
    >
      @for (pace of paces; track pace.rate) {
        <mat-button-toggle [value]="pace.rate">{{ pace.words }}</mat-button-toggle>
      }
    </mat-button-toggle-group>
    @if (speaking.voices().length > 1) {
      <mat-form-field subscriptSizing="dynamic">
        <mat-label>Voice</mat-label>
        <mat-select
          [value]="preferences.voice()"
          (valueChange)="preferences.speakBy($event); speaking.say(trial)"
        >
          <mat-option value="">the browser’s own choice</mat-option>
          @for (voice of speaking.voices(); track voice.name) {
            <mat-option [value]="voice.name">{{ voice.name }}</mat-option>
          }
        </mat-select>
      </mat-form-field>
    } @else if (speaking.voices().length === 0) {
      <p class="small quiet">
        This browser has no English voice: nothing will be heard. All of it stands here too.
      </p>
    }
  `,
  styles: `
    :host {
      display: grid;
      gap: 8px;
      justify-items: start;
    }
  `,
})
export class VoiceChoice {
  protected readonly preferences = inject(Preferences);
  protected readonly speaking = inject(Speaking);
  protected readonly paces = PACES;
  protected readonly trial = TRIAL;
}
