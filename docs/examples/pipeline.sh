#!/bin/sh
# The steps of a pipeline, for any build server: pipeline.sh pull-request | test | live
# It wants `ladder` on the path and runs in the project's folder. The build runs it as it stands.
set -eu
case ${1:-} in
  pull-request)
    ladder check
    ladder check --format sarif >check.sarif
    ladder rehearse ci --from-blank --format junit >rehearsal.xml
    # What live should have, without rows and without access to live.
    if [ -f live.expected ]; then
      ladder rehearse ci --expected live.expected --format markdown >rehearsal.md
    fi
    ladder rebuild ci --yes
    ladder drift ci
    ;;
  test)
    ladder apply test --await 60 --lock-wait 300 --seed
    ladder check --against test
    ladder drift test
    ;;
  live)
    ladder preview live
    ladder apply live --confirm live --await 60 --retries 3
    ladder status live --export-expected live.expected --yes
    ;;
  *)
    echo "pipeline.sh pull-request | test | live" >&2
    exit 2
    ;;
esac
