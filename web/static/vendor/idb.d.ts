export * from './entry.js';
import './database-extras.js';
import './async-iterators.js';
