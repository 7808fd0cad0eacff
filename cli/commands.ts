import type { Command } from './command.ts'

/** A command as the help tells it; what it takes to run is loaded when it is called. */
export interface ListedCommand {
  usage: string
  summary: string
  load: () => Promise<Command>
}

/** Every command by its name, in the order of the help. Adding one adds a file and a line here. */
export const commands: Readonly<Record<string, ListedCommand>> = {
  init: {
    usage: 'init FOLDER --rulebook ID|FILE [--name NAME]',
    summary:
      'Begins a crate as a folder that a repository can keep: crate.json, rulebook.json, a file an item, ' +
      'sources beside them. prepare … --out FOLDER puts items in; check and pack take the folder.',
    load: async () => (await import('./commands/init.ts')).init,
  },
  survey: {
    usage: 'survey FILE…',
    summary: 'Tells what is in the sources: parts, true triangle counts, materials, textures, unit, axes, bounds.',
    load: async () => (await import('./commands/survey.ts')).survey,
  },
  compare: {
    usage: 'compare OLD NEW | compare SCENE --rulebook ID --official STOCK_ID|FILE',
    summary: 'Tells what changed between two versions of a source, or what a scene adds to an official object.',
    load: async () => (await import('./commands/compare.ts')).compare,
  },
  take: {
    usage: 'take PACK.zip|CRATE.zip [--item NAME --out CRATE.zip | --texture PATH --out FILE.png] [--rulebook ID|FILE]',
    summary: 'Lists what is in a pack or crate file, or takes an item or a texture out of it.',
    load: async () => (await import('./commands/take.ts')).take,
  },
  prepare: {
    usage:
      'prepare FILE…|FOLDER --rulebook ID|FILE [--kind KIND] [--name NAME] [--preset FILE] [--unit ' +
      'mm|cm|m|in|…] [--up y|z|-z|…] [--forward …] [--split] [--steps none] --out CRATE.zip|FOLDER; or --report',
    summary:
      'Proposes a worklist for each, runs it and writes a crate; many at a time, on all cores. --preset says by ' +
      'the names of files what they become, in which unit, and by which worklist; --split makes an item of each ' +
      'thing of a scene; --report prints a table of every mesh prepared, packed and tried.',
    load: async () => (await import('./commands/prepare.ts')).prepare,
  },
  check: {
    usage: 'check CRATE.zip|PACK.zip|FOLDER [--rulebook ID|FILE]',
    summary: 'Prints what the game would say about every item of a crate, or of a pack, whoever made it.',
    load: async () => (await import('./commands/check.ts')).check,
  },
  slots: {
    usage: 'slots CRATE.zip|FOLDER [--item NAME --slot SLOT --out CRATE.zip]',
    summary:
      'In a game of numbered places: which item stands in for which of its things, and what is free; or gives ' +
      'an item another.',
    load: async () => (await import('./commands/slots.ts')).slots,
  },
  pack: {
    usage:
      'pack CRATE.zip|FOLDER --out PACK.zip|FOLDER/ [--item NAME…] [--over PACK.zip…] [--each] [--rulebook ID|FILE]',
    summary:
      'Runs every worklist and writes the archive the game loads, or its files loose into a folder: of every ' +
      'item or of some, without what packs below it have already. Tells who asks for each file, what stayed out, ' +
      'what differs from the file that was there, and how many findings block. With --each a pack for every ' +
      'item, into a folder.',
    load: async () => (await import('./commands/pack.ts')).pack,
  },
  watch: {
    usage:
      'watch FOLDER --rulebook ID|FILE [--kind KIND] [--preset FILE] [--unit …] [--up …] [--split] --out ' +
      'PACK.zip [--crate CRATE.zip|FOLDER] | watch CRATE_FOLDER --out PACK.zip',
    summary:
      'Prepares and packs what lies in a folder, and again whenever a file is saved: only what changed. Of a ' +
      'crate folder, items whose sources or worklists changed.',
    load: async () => (await import('./commands/watch.ts')).watch,
  },
  overlay: {
    usage: 'overlay PACK.zip PACK.zip… [--rulebook ID|FILE]',
    summary: 'Which of several packs wins each path where they lie beside each other, in the order of their names.',
    load: async () => (await import('./commands/overlay.ts')).overlay,
  },
  trial: {
    usage: 'trial PACK.zip|FOLDER --rulebook ID|FILE [--over PACK.zip…] [--all]',
    summary:
      'Lets the stand-in loader read a pack, or files that lie loose in a folder, with packs below it whose ' +
      'files it does not have; prints its verdict and its log: faults with what they mean; what is harmless only ' +
      'with --all.',
    load: async () => (await import('./commands/trial.ts')).trial,
  },
  paths: {
    usage:
      'paths CRATE.zip|FOLDER [--names] [--find WORDS] [--trouble] | paths CRATE --rebase OLD=FOLDER --out ' +
      'CRATE.zip|FOLDER',
    summary:
      'Every file that the items of a crate ask for: as its source wrote it, as it was found, as it is packed; ' +
      'what is missing, there twice or on somebody’s disk; with --names those of parts and materials as well. ' +
      '--rebase leads written paths below one folder to pictures in another.',
    load: async () => (await import('./commands/paths.ts')).paths,
  },
  'touch-test': {
    usage: 'touch-test CRATE.zip|FOLDER',
    summary:
      'What it is like to bump into each item: ways through, bodies that come near, what stands out, whether it rests.',
    load: async () => (await import('./commands/touch-test.ts')).touchTest,
  },
  shift: {
    usage: 'shift CRATE.zip|FOLDER | shift BEFORE AFTER',
    summary:
      'Measures how far the surface of each item moved from its source, or of one mesh from another, and how ' +
      'its outline changed.',
    load: async () => (await import('./commands/shift.ts')).shift,
  },
  convert: {
    usage:
      'convert IN --to glb|gltf|obj|dae|fbx|stl|ply --out OUT   and for images: --to png|tga|dds|ktx2 [--codec ' +
      'bc1|bc3|bc4|bc5|bc7|none|basis] [--meaning colour|normal|data] [--header old|dx10] [--no-mipmaps] [--rle] ' +
      '[--top-down]',
    summary: 'Writes one mesh or image in another format.',
    load: async () => (await import('./commands/convert.ts')).convert,
  },
  steps: {
    usage: 'steps [STEP]',
    summary: 'Lists every step there is, or what one step takes, for those who write presets.',
    load: async () => (await import('./commands/steps.ts')).steps,
  },
  rulebook: {
    usage:
      'rulebook ID|FILE [--rules] [--kind KIND] [--find WORDS] | rulebook ID|FILE --against ID|FILE | rulebook ' +
      'ID|FILE --try CRATE.zip | rulebook ID|FILE [--as ID --title TITLE] --out FILE.json|FILE.zip',
    summary:
      'Prints a built-in rulebook, or validates a rulebook file; with --rules each demand as a sentence and ' +
      'why, of one kind or with some words; with --against what another demands otherwise; with --try which ' +
      'findings come and go in a crate; with --out writes it as a file, a ZIP with what the game has in stock, ' +
      'or with --as begins one of your own from it.',
    load: async () => (await import('./commands/rulebook.ts')).rulebook,
  },
  learn: {
    usage: 'learn PACK.zip|FOLDER… [--known PATH=METRES…] [--leave FIELD…] [--as ID --title TITLE --out FILE.json]',
    summary:
      'Measures files that a game accepts and proposes a rulebook: each field with how many files say it, how ' +
      'surely, and what contradicts it. --known is the height of a thing in them; --leave takes a field from the ' +
      'nearest built-in game instead.',
    load: async () => (await import('./commands/learn.ts')).learn,
  },
  stock: {
    usage: 'stock ID|FILE THING… --out GAME.zip [--host NAME…]',
    summary:
      'Gives a game what it has in stock, as files or a folder: meshes become official objects (or hosts), ' +
      'pictures its own textures, bones skeletons, packs of it bring their items, a donors.json its donors. ' +
      'Writes rulebook and stock as one file.',
    load: async () => (await import('./commands/stock.ts')).stock,
  },
}
