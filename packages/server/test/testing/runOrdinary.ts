/** Set up before the security tests: their servers are run by an ordinary user, unless it is the superuser's turn. */
if (process.env['RELLIN_TEST_SUPERUSER'] !== '1') process.env['RELLIN_TEST_ORDINARY'] = '1';
