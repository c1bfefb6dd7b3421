import type { Problem, ProblemCode, ProblemText, Where } from './problems.ts';

type Words = readonly [message: string, expected: string, found: string, remedy: string];
type Sentences = { [C in ProblemCode]: (problem: Extract<Problem, { code: C }>) => Words };

const hex = (value: number): string => value.toString(16).toUpperCase().padStart(2, '0');
const count = (n: number, one: string, many = `${one}s`): string => `${n.toLocaleString('en')} ${n === 1 ? one : many}`;
const megabytes = (bytes: number): string => `${Math.round(bytes / 1048576)} MB`;
const nothing = 'Nothing to do: it was mended while reading, and the original is kept as it came.';

const sentences: Sentences = {
  'header-missing': () => ['The file header is missing', 'an MThd chunk first', 'a track chunk', 'Read as format 1 with 480 ticks a quarter note; check the tempo and bar lines.'],
  'header-late': (p) => ['Other bytes stand before the file header', 'MThd at the first byte', `${count(p.bytes, 'byte')} before it`, nothing],
  'header-damaged': () => ['The file header is damaged', 'MThd and a length of six bytes', 'something else before what the header states', 'What it states of format, tracks and resolution was taken; check the bar lines.'],
  'held-in': (p) => [`The MIDI file lies inside ${p.looksLike}`, 'a MIDI file by itself', p.looksLike, 'The MIDI was taken out of it; the original is kept whole.'],
  'several-files': (p) => ['Several MIDI files stand one after the other in this one', 'one file', count(p.files, 'file'), 'Each became a song of its own.'],
  'track-id': (p) => ['A track’s chunk has a damaged name', 'MTrk', p.id, 'It holds events to its end, and was taken as a track.'],
  'time-lost': (p) => [p.ticks > 0 ? 'Time is missing from a track' : 'A track states a time that cannot be', 'music on its beats', p.ticks > 0 ? 'music that falls off them where bytes are missing' : 'a wait longer than the rest of the song', `What follows was put ${Math.abs(p.ticks).toLocaleString('en')} ticks ${p.ticks > 0 ? 'later' : 'earlier'}, where it fits best; check the bars around this place.`],
  'track-damaged': (p) => ['A track is damaged', 'events', p.bytes > 0 ? `${count(p.bytes, 'byte')} that cannot be understood` : 'zeros written over them', 'The rest was told from them by what is usual in this file, and put where it fits the bars; check the music after this place.'],
  'track-head': () => ['The head of a track is damaged', 'MTrk and a length', 'something else, with events behind it', 'Its events were read to their end.'],
  'header-short': (p) => ['The file header is cut short', 'six bytes or more', count(p.length, 'byte'), 'What is missing was taken as format 1 and 480 ticks a quarter note; check the bar lines.'],
  'format-unknown': (p) => [`The header names format ${p.format}`, 'format 0, 1 or 2', `${p.format}`, `Read as format ${p.taken}.`],
  'format0-many-tracks': (p) => ['A format 0 file holds more than one track', 'one track chunk', count(p.tracks, 'track chunk'), 'Read as format 1; every track was taken.'],
  'division-invalid': (p) => ['The header gives no usable resolution', 'at least 1 tick a quarter note, or frames of 24, 25, 29 or 30', `${p.division}`, `Taken as ${p.taken} ticks a quarter note; check the bar lines.`],
  'track-count': (p) => ['The header counts another number of tracks', count(p.stated, 'track'), count(p.found, 'track'), 'Every track that is there was taken.'],
  'chunk-cut': (p) => ['The file ends inside a chunk', count(p.stated, 'byte'), count(p.present, 'byte'), 'What was there was read; ask the sender for the whole file if the ending is missing.'],
  'chunk-length': (p) => ['A track chunk gives a wrong length', count(p.stated, 'byte'), count(p.used, 'byte'), 'The track was read to its real end.'],
  'bytes-between-chunks': (p) => ['Bytes that belong to no chunk stand between chunks', 'a chunk', count(p.bytes, 'stray byte'), 'They were passed over; the original keeps them.'],
  'end-of-track-missing': () => ['A track has no end', 'an end-of-track event last', 'none', 'An end was set at the last event.'],
  'end-of-track-early': () => ['An end of track stands in the middle of a track', 'end of track last', 'events after it', 'The events after it were kept; the end now stands last.'],
  'bytes-after-end': (p) => ['Bytes follow the end of a track inside its chunk', 'end of track last', count(p.bytes, 'byte'), 'They were passed over; the original keeps them.'],
  'event-cut': () => ['The last event of a track is cut off', 'a whole event', 'part of one', 'The part was left out; everything before it was read.'],
  'delta-too-long': () => ['A time between events is written with too many bytes', 'four bytes at most', 'five or more', 'The last four were taken; check the timing after this place.'],
  'length-too-long': (p) => ['An event says it is longer than its track', count(p.stated, 'byte'), count(p.present, 'byte'), 'It was left out; reading went on at the next place where events can be made out.'],
  'status-missing': (p) => ['Data stands where an event should begin', 'a status byte', count(p.bytes, 'data byte'), 'They were passed over; check the music after this place.'],
  'running-status-after-meta': (p) => ['Running status goes on after a meta or system exclusive event', 'a new status byte', count(p.times, 'event') + ' without one', nothing],
  'status-not-in-files': (p) => [`System message ${hex(p.status)} stands in the file, where only live connections have it`, 'a channel, system exclusive or meta event', hex(p.status), 'Kept as an escaped (F7) packet, which is how files carry such bytes.'],
  'data-byte-high': (p) => ['A value lies above 127', '0 to 127', `${p.value}${p.times > 1 ? `, and ${p.times - 1} more` : ''}`, 'Each was set to 127; check loudness and pitch in this track.'],
  'meta-length': (p) => [`A meta event of type ${hex(p.meta)} has an unusual length`, count(p.usual, 'byte'), count(p.stated, 'byte'), 'Kept as it is; what of it can be understood counts, and it is sent with the right length.'],
  'tempo-zero': () => ['A tempo of zero microseconds a quarter note', '1 to 16,777,215', '0', 'Kept, but not obeyed: the tempo before it goes on.'],
  'not-split': () => ['The one track was not split by channel', 'channels that can stand alone', 'waits between their events that are too long to bridge', 'It was taken as one track; split it when the events that lie far behind the rest are gone.'],
  'wrapper-size': (p) => ['The RIFF wrapper gives a wrong size', count(p.stated, 'byte'), count(p.present, 'byte'), nothing],
  'more-problems': (p) => ['More problems of the same kinds follow', 'none', count(p.left, 'more', 'more'), 'The first ones are listed; all were mended in the same way.'],

  'file-empty': () => ['The file is empty', 'a MIDI file', '0 bytes', 'Ask the sender to export it again.'],
  'not-midi': (p) => [`This is no MIDI file: it looks like ${p.looksLike}`, 'a MIDI file (it begins with MThd)', p.looksLike, p.remedy],
  'no-tracks': () => ['The file has a MIDI header but no track', 'at least one MTrk chunk', 'none', 'Ask the sender to export it again.'],
  'too-many-events': (p) => ['The file holds more events than can be taken', `at most ${p.most.toLocaleString('en')}`, 'more', 'Split the file before bringing it in.'],
  'too-many-chunks': (p) => ['The file holds more tracks and other chunks than a MIDI file can count', `at most ${p.most.toLocaleString('en')}`, 'more', 'Ask the sender to export it again.'],
  'too-many-files': (p) => ['Too many MIDI files stand one after the other in this one', `at most ${p.most.toLocaleString('en')}`, 'more', 'Split the file before bringing it in.'],

  'song-unknown': (p) => ['There is no such song', 'the id of a song', `${p.where.id}`, 'It may have been removed; see the list of songs.'],
  'handoff-unknown': (p) => ['There is no such handoff', 'the id of a handoff', `${p.where.id}`, 'Make the handoff again.'],
  'handoff-nothing': (p) => ['Nothing can be handed off so', 'something that leaves', p.why, p.remedy],
  'handoff-unproven': (p) => ['A file does not hold what the song does', 'what the settings explain', p.differences, 'Nothing was handed off. This is a defect of the program: report it, and send the song whole.'],
  'file-unknown': (p) => ['There is no such file in this handoff', 'one of its file names', `${p.where.file}`, 'The handoff lists its files.'],
  'blob-unknown': (p) => ['There are no such events', 'the hash of a track, as the song names it', `${p.where.id}`, 'Look the song up again.'],
  'original-unknown': () => ['There is no file of that hash', 'the SHA-256 of a file that was brought in', 'none that is kept', 'Bring the file in, or send it to /api/originals.'],
  'sounds-missing': (p) => ['There are no sounds to play with', 'a sound bank in SF2 or SF3 format', `nothing at ${p.where.file}`, 'Install the Debian package fluidr3mono-gm-soundfont, or name a file in SATCHEL_SOUNDS, and start again.'],
  'clip-unknown': (p) => ['There is no such clip on the shelf', 'the id of a clip', `${p.where.id}`, 'It may have been taken from the shelf; songs that took it in keep what they took.'],
  'clip-twin': (p) => ['The same clip lies in that folder already', 'a folder without it', `“${p.name}”`, 'Choose another folder, or use the one that is there; nothing was changed.'],
  'folder-into-itself': (p) => ['A folder cannot lie within itself', `a folder that is not in “${p.from}”`, `“${p.to}”`, 'Choose another place; nothing was moved.'],
  'bank-unknown': (p) => ['There is no such sound bank', 'the SHA-256 of a bank that is kept', `${p.where.id}`, 'It may have been removed: choose another one under how a song is heard.'],
  'bank-unreadable': (p) => ['This is no sound bank that can be used', p.expected, p.found, 'Bring in a whole bank in SF2 or SF3 format; nothing was kept.'],
  'route-unknown': (p) => ['There is no such address here', 'an address listed at /api/openapi.json', `${p.where.field}`, 'See /api/openapi.json for what there is.'],
  'operation-unknown': (p) => ['There is no such operation', p.known.join(', '), `${p.where.id}`, 'See /api/operations for what there is.'],
  'settings-invalid': (p) => [`${p.where.field || 'The request'} cannot be used`, p.expected, p.found, 'Change it and send it again; nothing was done.'],
  'scope-unknown-track': (p) => ['The scope names a track that is not in this song', 'tracks of the song', p.tracks.join(', '), 'Look the song up again; nothing was done.'],
  'scope-behind-end': (p) => ['The scope begins behind the end of the song', `bars 1 to ${p.bars.toLocaleString('en')}`, `bar ${p.from.toLocaleString('en')}`, 'Choose bars that are there; nothing was done.'],
  'scope-has-bars': () => ['This operation works on whole tracks', 'a scope without bars', 'a span of bars', 'Leave the bars out; nothing was done.'],
  'scope-has-rows': () => ['This operation does not work on events that are chosen one by one', 'a scope of tracks', 'chosen events', 'Choose tracks or bars; nothing was done.'],
  'scope-rows-stale': (p) => ['The events were chosen in another revision of the song', `rows of revision ${p.head.toLocaleString('en')}`, `rows of revision ${p.given.toLocaleString('en')}`, 'Choose them again in the song as it is; nothing was done.'],
  'scope-without-bars': () => ['This operation works on a span of bars', 'a scope with bars', 'a scope without', 'Choose the bars; nothing was done.'],
  'bars-behind-end': (p) => [`The song has no bar ${p.bar.toLocaleString('en')}`, `bars 1 to ${p.bars.toLocaleString('en')}`, `bar ${p.bar.toLocaleString('en')}`, 'Choose bars that are there; nothing was done.'],
  'chord-unreadable': (p) => [`“${p.typed}” is no chord`, 'chord symbols, as Dm7, G7/B or N.C.', p.bar === undefined ? `“${p.typed}”` : `“${p.typed}” in bar ${p.bar.toLocaleString('en')}`, 'Begin with a root from A to G, then what stands over it; nothing was done.'],
  'bars-clash': (p) => [`Bar ${p.bar.toLocaleString('en')} would come to stand in another meter`, `the meter of bar ${p.bar.toLocaleString('en')} at bar ${p.at.toLocaleString('en')}`, 'another one', 'Take all tracks, so that the meters move along, or choose other bars; nothing was done.'],
  'bars-into-themselves': (p) => [`Bars ${p.from.toLocaleString('en')} to ${p.to.toLocaleString('en')} cannot go into themselves`, 'a bar before or behind them', `bar ${p.bar.toLocaleString('en')}`, 'Choose another bar; nothing was done.'],
  'track-unknown': (p) => ['The settings name a track that is not in this song', 'tracks of the song, each once', p.tracks.join(', '), 'Look the song up again; nothing was done.'],
  'no-track-left': () => ['A song keeps at least one track', 'one track or more left', 'none', 'Leave one track, or remove the song itself; nothing was done.'],
  'source-missing': (p) => (p.blank
    ? [`Nothing is given for ${p.source}`, 'a file or a song to take from', 'a blank', 'Choose what the step is to take from; nothing was done.']
    : [`What the step takes from is not here: ${p.source}`, 'a file or a song’s revision that is stored', 'none of that name', 'Bring the file in again, or choose another; nothing was done.']),
  'recipe-tracks-missing': (p) => ['The recipe is for tracks that this song does not have', p.names.join(', '), 'no such track', 'Name or order the tracks so, or change what the recipe’s step is for; nothing was done.'],
  'recipe-unknown': (p) => ['There is no such recipe', 'the id of a recipe', `${p.where.id}`, 'It may have been removed; see the list of recipes.'],
  'recipe-shipped': () => ['This recipe comes with the product', 'a recipe of your own', 'a shipped one', 'Save it under a name of your own and change that; nothing was done.'],
  'key-clash': (p) => [`The key ${p.given} cannot be “${p.title}”: ${p.by} has it`, 'a key that nothing else has there', p.given, 'Take another key, or change the other one first; nothing was changed.'],
  'receiver-unknown': (p) => ['There is no such receiver', 'the id of a receiver', `${p.where.id}`, 'It may have been removed; see the list of receivers.'],
  'receiver-shipped': () => ['This receiver comes with the product', 'a receiver of your own', 'a shipped one', 'Save it under a name of your own and change that; nothing was done.'],
  'link-unknown': () => ['This link leads nowhere', 'a link that is still good', 'one that was revoked, has expired, or never was', 'Ask whoever sent it for a new one.'],
  'satchel-unreadable': (p) => ['This satchel cannot be opened', 'a satchel as it was packed', p.why, 'Have it packed and sent again; nothing of it was taken.'],
  'satchel-newer': (p) => ['This satchel was packed by a newer version', `a layout of version ${p.known} at most`, `version ${p.version}`, 'Bring this program up to date, or take the MIDI files out of the satchel; nothing of it was taken.'],
  'instrument-unknown': (p) => ['There is no such instrument', 'the id of an instrument', `${p.where.id}`, 'It may have been removed; songs that play it keep their copy. See the list of instruments.'],
  'instrument-along': () => ['This instrument comes with the product', 'an instrument of your own', 'one that comes along', 'Save it under a name of your own and change that; nothing was done.'],
  'instruments-unreadable': (p) => ['The file holds no instruments', 'definitions as JSON, or a MIDI name document', p.why, 'Mend the file, or choose another; nothing was kept.'],
  'instruments-of-several': (p) => ['A MIDI name document is about one device', 'instruments of one maker and model', p.devices.join(', '), 'Write those of one device at a time, or all of them as JSON.'],
  'xml-unreadable': (p) => ['The XML cannot be read', 'a well-formed document (line:column before what is wrong)', p.why, 'Mend it there; nothing was kept. Entities other than those of XML itself are not known.'],
  'revision-stale': (p) => ['The song has changed since you looked', `revision ${p.head}`, `revision ${p.given}`, 'Look at the song as it is now and take the step again; nothing was done.'],
  'revision-unknown': (p) => ['The song never was at this revision', 'a revision of its history', `revision ${p.given}`, 'Take one that the history lists; nothing was done.'],
  'nothing-to-undo': () => ['There is no step to undo', 'a step before this', 'the song as it came in', 'Nothing was done.'],
  'nothing-to-redo': () => ['There is no step to redo', 'an undone step', 'none', 'Nothing was done.'],
  'file-too-large': (p) => [`The ${p.where.field === 'body' ? 'request' : 'file'} is too large`, `at most ${megabytes(p.mostBytes)}`, 'more', `Split it, or raise ${p.setting} on this installation.`],
  'no-room': () => ['There is no room left on the disk', 'room for what is to be kept', 'a full disk', 'Nothing was done and nothing is half done. Make room on the disk, then try again; what is kept can be read.'],
  'archive-unreadable': (p) => ['The archive cannot be unpacked', 'a zip archive of MIDI files', p.why, 'Unpack it, and bring in the files by themselves.'],
  'archive-too-large': (p) => ['The archive holds too much', `at most ${megabytes(p.maxBytes)} when unpacked`, megabytes(p.bytes), 'Split it into several archives.'],
  'list-too-large': (p) => ['The list is too large', `at most ${megabytes(p.maxBytes)}`, megabytes(p.bytes), 'Bring in its MIDI files without the archive.'],
  'checksum-wrong': () => ['The checksum in the archive does not match', 'the bytes that were packed', 'other bytes', 'The file was taken as received. Check it, or ask the sender again.'],
  'files-too-many': (p) => ['Too many files at once', `at most ${p.most}`, 'more', 'Send them in several goes.'],
  'file-missing': () => ['No file came with the request', 'one or more files in the field "file"', 'none', 'Choose at least one file.'],
  'file-name-invalid': (p) => ['The file name cannot be used', 'a plain name without path or control characters', p.why, 'Rename the file and send it again; nothing was stored.'],
  'content-type-wrong': (p) => ['The request has the wrong content type', p.expected, p.found, 'Send it as expected; nothing was done.'],
  'body-unreadable': (p) => ['The request could not be read', 'a well-formed request', p.why, 'Mend the request; nothing was done.'],
  'body-too-wide': (p) => ['The request holds too many named values', `at most ${p.maxKeys.toLocaleString('en')}`, p.keys.toLocaleString('en'), 'Send it in several requests; nothing was done.'],
  'host-foreign': (p) => ['The request names another host', 'the address this server is reached at', p.found, 'Open the address that the start command printed.'],
  'origin-foreign': (p) => ['The request comes from another site', 'this site', p.found, 'Use the page of this installation.'],
  'work-stopped': (p) => ['This took more than it may', 'work within the limits', p.why, 'Nothing was done. Choose less at once: fewer tracks, fewer bars.'],
  'reading-stopped': (p) => ['Reading this file was stopped', 'a file that can be read within the limits', p.why, 'Nothing was stored. Split the file, or raise the limits of this installation.'],
  'tick-too-far': (p) => [`${p.name} would reach further than ticks can be counted exactly`, 'ticks up to 9,007,199,254,740,991', 'more', 'Choose a smaller value; nothing was done.'],
  'gap-too-long': (p) => [`${p.name} would wait longer than can be bridged`, 'at most 2,684,354,550,000 ticks of waiting in a track', 'more', 'Choose a smaller value, or remove the events that lie far behind the rest; nothing was done.'],
  busy: () => ['The server has too much to do just now', 'room in the queue', 'a full queue', 'Try again in a moment; nothing was done.'],
  'database-away': (p) => ['The database does not answer', 'an answer', 'none', p.isUnsure ? 'It is usually back within seconds. Check whether this was done before you repeat it; nothing is half done.' : 'It is usually back within seconds: try again. What was acknowledged is kept, nothing is half done.'],
  defect: () => ['Something went wrong on our side', 'an answer', 'a defect', 'Nothing was half done. Try again; if it stays, the server log says more.'],
};

/** A place in words: "track 3, byte 1204 (0x4B4)". */
export function placeText(where: Where): string {
  const parts: string[] = [];
  if (where.file !== undefined) parts.push(where.file);
  if (where.track !== undefined) parts.push(`track ${where.track}`);
  else if (where.chunk !== undefined) parts.push(`chunk ${where.chunk}`);
  if (where.tick !== undefined) parts.push(`tick ${where.tick}`);
  if (where.byte !== undefined) parts.push(`byte ${where.byte.toLocaleString('en')}`);
  return parts.join(', ');
}

/** The problem in words, in the one shape that the API and the page show. */
export function say(problem: Problem): ProblemText {
  const speak = sentences[problem.code] as (p: Problem) => Words;
  const [message, expected, found, remedy] = speak(problem);
  return { code: problem.code, message, where: problem.where, expected, found, remedy };
}
