import { TestBed } from '@angular/core/testing';
import { MatButtonHarness } from '@angular/material/button/testing';
import { MatDialogRef } from '@angular/material/dialog';
import { linkCode, qrModules } from '@near-spoke/core/labels';

import { showRoom } from '../testing/rooms';
import { CameraReader } from './camera-reader';

/** A camera that looks at a code. */
function cameraOn(text: string): { stream: MediaStream; stop: () => void } {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [640, 480];
  const pen = canvas.getContext('2d');
  const modules = qrModules(text);
  const draw = (): void => {
    if (!pen) return;
    pen.fillStyle = '#ddd';
    pen.fillRect(0, 0, 640, 480);
    pen.fillStyle = '#111';
    const size = Math.floor(380 / modules.length);
    modules.forEach((row, y) =>
      row.forEach((dark, x) => {
        if (dark) pen.fillRect(130 + x * size, 50 + y * size, size, size);
      }),
    );
  };
  const timer = setInterval(draw, 50);
  draw();
  return { stream: canvas.captureStream(20), stop: () => clearInterval(timer) };
}

describe('a label read with the camera', () => {
  const ID = '7d9a1f3c-52e8-4b60-9c1d-0e5f6a7b8c9d';
  const show = async (getUserMedia: () => Promise<MediaStream>) => {
    spyOn(navigator.mediaDevices, 'getUserMedia').and.callFake(getUserMedia);
    const dialog = jasmine.createSpyObj<MatDialogRef<unknown>>('MatDialogRef', ['close']);
    TestBed.configureTestingModule({ providers: [{ provide: MatDialogRef, useValue: dialog }] });
    return { dialog, room: await showRoom(CameraReader) };
  };

  it('opens its link, and lets go of the camera', async () => {
    const { stream, stop } = cameraOn(`http://127.0.0.1:4870/l/${linkCode(ID)}`);
    const { dialog, room } = await show(() => Promise.resolve(stream));
    await room.until(() => room.ways.length > 0);
    stop();
    expect(room.ways[0]).toBe(`/l/${linkCode(ID)}`);
    expect(dialog.close).toHaveBeenCalledTimes(1);
    room.fixture.destroy();
    expect(stream.getTracks().every(({ readyState }) => readyState === 'ended')).toBeTrue();
  });

  it('says that a code is none of ours, and looks on', async () => {
    const { stream, stop } = cameraOn('https://example.org/a/poster/on/the/wall');
    const { dialog, room } = await show(() => Promise.resolve(stream));
    await room.until(() => room.text('[role=status]').includes('no label of ours'));
    stop();
    expect(room.ways).toEqual([]);
    expect(dialog.close).not.toHaveBeenCalled();
    room.fixture.destroy();
  });

  it('says what is wrong where there is no camera or it is refused, and tries again', async () => {
    const names = ['NotAllowedError', 'NotFoundError'];
    const { room } = await show(() => Promise.reject(new DOMException('no', names.shift() ?? 'AbortError')));
    await room.until(() => room.text('[role=alert]') !== '');
    expect(room.text('[role=alert]')).toContain('was not allowed to use the camera');
    await (await room.loader.getHarness(MatButtonHarness.with({ text: 'Try again' }))).click();
    await room.until(() => room.text('[role=alert]').includes('no camera'));
    await (await room.loader.getHarness(MatButtonHarness.with({ text: 'Try again' }))).click();
    await room.until(() => room.text('[role=alert]').includes('could not be started'));
    expect(names).toEqual([]);
  });
});
