String log = new File(basedir, "build.log").text
assert log.contains("1 rungs read")
assert log.contains("0001  proved")
assert log.contains("grade  1 added")
assert log.contains("wrote rungs/0002-draft.sql")
assert log.contains("0002  taken back")
assert log.contains("live is guarded: a change there must be confirmed by its name")
assert log.contains("live is at 0002")
assert new File(basedir, "rungs/0002-draft.sql").text.contains("CREATE TABLE bin")
