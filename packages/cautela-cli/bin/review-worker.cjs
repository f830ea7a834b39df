"use strict";
// Where a thread begins that reviews one change set.
const { reviewWorker } = require("../dist/cautela.cjs");

module.exports = reviewWorker;
