import { Game, type Physics, Scale, Scene, WEBGL } from "phaser";
import { openSession } from "zealous-mantle";
import { autosave, isInputCaptured, keyBindings, openControls } from "zealous-mantle/browser";
import { type DrawnFigure, figuresPlugin } from "zealous-mantle/phaser";
import { openWardrobe } from "../harbor/menus.ts";
import { signOn } from "../shared/crew.ts";
import { byId } from "../shared/dom.ts";
import { catalog, loader, store } from "../shared/saltmarsh.ts";
import { flats, letters, paintFlats, paintLetter, paintPlanks, paintWater, planks } from "./landscape.ts";

/** Pixels of the art a second, and what pulls down. */
const [walking, wading, leap, gravity] = [92, 48, 300, 720];

const session = await openSession({ catalog, store, conflicts: "overwrite" });
autosave(session);
signOn(session, 4);
const [first] = session.characters;
if (session.seat(1).character === undefined && first !== undefined) session.seat(1).take(first.id);

const controls = openControls({ keys: { one: keyBindings["keys-arrows"] } });
const pressed = new Set<string>();
for (const id of ["left", "right", "jump"]) {
  const button = byId(id, HTMLButtonElement);
  button.onpointerdown = () => pressed.add(id);
  button.onpointerup = button.onpointerleave = () => pressed.delete(id);
}
const isDown = (action: "left" | "right" | "up", button: string) =>
  controls.isDown("one", action) || pressed.has(button);

class Flats extends Scene {
  declare player: DrawnFigure;
  #found = 0;

  preload(): void {
    const { look } = session.seat(1);
    if (look !== undefined) this.figures.preload(look);
    this.load.on("progress", (part: number) => say(`Fetching the clothes: ${Math.round(part * 100)} %`));
  }

  create(): void {
    const { width, height, water, bottom } = flats;
    this.textures.addCanvas("flats", paintFlats());
    this.textures.addCanvas("water", paintWater());
    this.textures.addCanvas("letter", paintLetter());
    this.add.image(0, 0, "flats").setOrigin(0);
    const ground = this.physics.add.staticGroup();
    for (const [number, [x, y, wide]] of planks.entries()) {
      this.textures.addCanvas(`planks ${number}`, paintPlanks(y, wide));
      this.add.image(x, y, `planks ${number}`).setOrigin(0);
      ground.add(this.#step(x, y, wide, 8));
    }
    ground.add(this.#step(0, bottom, width, height - bottom));

    this.player = this.figures.add(48, 206, { session, seat: 1, facing: "east" });
    this.physics.add.existing(this.player);
    const body = this.player.body as Physics.Arcade.Body;
    body.setCollideWorldBounds(true);
    // One jumps through a stage from below, and stands on it from above.
    body.checkCollision.up = body.checkCollision.left = body.checkCollision.right = false;
    this.physics.world.setBounds(0, -200, width, height + 200);
    this.physics.add.collider(this.player, ground);
    this.player.on("frame-event", () => this.#splash());
    for (const [x, y] of letters) this.#lay(x, y);

    this.add.image(0, water, "water").setOrigin(0).setDepth(1);
    this.player.setDepth(2);
    this.cameras.main.setBounds(0, 0, width, height).startFollow(this.player, true, 0.12, 0.12, 0, 40);
    this.cameras.main.setRoundPixels(true);
    say("The tide took the letters. Arrow keys walk and jump.");
    document.body.dataset["ready"] = "true";
  }

  override update(): void {
    const { player } = this;
    const body = player.body as Physics.Arcade.Body;
    this.#fit(body);
    const isWet = player.y > flats.water + 4;
    session.signal({ "in-water": isWet });
    const across = isInputCaptured() ? 0 : Number(isDown("right", "right")) - Number(isDown("left", "left"));
    body.setVelocityX(across * (isWet ? wading : walking));
    if (isDown("up", "jump") && body.blocked.down && !isInputCaptured()) body.setVelocityY(-leap);
    if (across !== 0) player.facing = across < 0 ? "west" : "east";
    // The sprite's animations are Phaser's own: in the air the step is slow.
    player.anims.timeScale = body.blocked.down ? 1 : 0.4;
    player.play(across === 0 ? "idle" : "walk", true);
    Object.assign(document.body.dataset, {
      x: String(Math.round(player.x)),
      wet: String(isWet),
      form: player.look?.form ?? "",
      animation: player.animation,
    });
  }

  /** The collider is that of the look: a form may have one of its own. */
  #fit(body: Physics.Arcade.Body): void {
    const { collider, rig } = this.player.look ?? {};
    if (collider === undefined || rig === undefined) return;
    body.setSize(collider.width, collider.height, false);
    body.setOffset(rig.origin.x + collider.x, rig.origin.y + collider.y);
  }

  #step(x: number, y: number, width: number, height: number) {
    return this.add.zone(x + width / 2, y + height / 2, width, height);
  }

  #lay(x: number, y: number): void {
    const letter = this.physics.add.staticImage(x, y, "letter").setSize(22, 24);
    this.tweens.add({ targets: letter, y: y - 4, duration: 900, yoyo: true, repeat: -1, ease: "Sine.easeInOut" });
    this.physics.add.overlap(this.player, letter, () => {
      letter.destroy();
      this.#found += 1;
      const all = this.#found === letters.length;
      say(all ? "All letters are found. The islands have their mail." : `${this.#found} of ${letters.length} letters.`);
    });
  }

  /** A step in the water throws drops. */
  #splash(): void {
    if (this.player.y < flats.water) return;
    for (const by of [-6, 6]) {
      const drop = this.add.rectangle(this.player.x + by, flats.water, 2, 2, 0xd6e2ce).setDepth(3);
      this.tweens.add({
        targets: drop,
        x: drop.x + by * 1.4,
        y: { from: flats.water - 2, to: flats.water - 12 },
        alpha: 0,
        duration: 360,
        onComplete: () => drop.destroy(),
      });
    }
  }
}

function say(text: string): void {
  byId("said", HTMLParagraphElement).textContent = text;
}

function showWho(): void {
  byId("who", HTMLHeadingElement).textContent = session.seat(1).character?.name ?? "";
}

function openOwnWardrobe(): void {
  void openWardrobe(session).then(showWho);
}

byId("wardrobe", HTMLButtonElement).onclick = openOwnWardrobe;
addEventListener("keydown", ({ key, repeat }) => {
  if (key === "e" && !repeat && !isInputCaptured()) openOwnWardrobe();
});
showWho();

const view = byId("view", HTMLDivElement);
/** As many pixels of the art as fit at the whole scale at which the flats fill the view from top to bottom. */
const sizeOf = () => {
  const scale = Math.max(1, Math.round(view.clientHeight / flats.height));
  return {
    scale,
    width: Math.ceil(view.clientWidth / scale),
    height: Math.min(flats.height, Math.ceil(view.clientHeight / scale)),
  };
};
const { scale, ...size } = sizeOf();
const game = new Game({
  ...size,
  type: WEBGL,
  parent: view,
  pixelArt: true,
  banner: false,
  backgroundColor: "#bd9c97",
  audio: { noAudio: true },
  input: { keyboard: false },
  scale: { mode: Scale.NONE, zoom: scale },
  physics: { default: "arcade", arcade: { gravity: { x: 0, y: gravity } } },
  scene: Flats,
  plugins: { scene: [figuresPlugin({ loader })] },
});
addEventListener("resize", () => {
  const next = sizeOf();
  game.scale.setZoom(next.scale);
  game.scale.resize(next.width, next.height);
});
