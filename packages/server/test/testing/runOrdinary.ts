/** Set up before the tests of the project “ordinary”: their servers are run by an ordinary user. */
process.env['RELLIN_TEST_ORDINARY'] = '1';
