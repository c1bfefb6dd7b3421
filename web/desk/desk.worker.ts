import { expose } from 'comlink';
import { fetchTracks } from './fetch-tracks.ts';
import { Desk } from './desk.ts';
import './failures.ts';

/** The desk, beside the page: sliders stay smooth whatever is being worked out. */
expose(new Desk(fetchTracks));
