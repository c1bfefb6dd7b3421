import { expose } from 'comlink';
import { fetchEvents } from '../api/events.ts';
import { Desk } from './desk.ts';

/** The desk, beside the page: sliders stay smooth whatever is being worked out. */
expose(new Desk(fetchEvents));
