// @ts-check
import { readMoments } from "/static/js/moments.js";

readMoments(document);
