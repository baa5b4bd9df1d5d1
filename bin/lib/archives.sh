#!/usr/bin/env bash
# Lays the service out for a quick start: its jar extracted, with an archive of its classes (AppCDS, JEP 350); the client's archive; and
# the tests' stand-in, extracted.
set -euo pipefail
cd "$(dirname "$0")/../.."
# whole paths: an archive is for the very class path that it was made with, from wherever the service is started
app=$PWD/service/target/app
lay_out() { # module folder
  rm -rf "$2"
  java -Djarmode=tools -jar "$1/target/jandrel-$1-0.1.0-app.jar" extract --destination "$2" --force >/dev/null
  mv "$2"/jandrel-"$1"-*.jar "$2/$1.jar"
}
lay_out service "$app"
[ ! -f standin/target/jandrel-standin-0.1.0-app.jar ] || lay_out standin "$PWD/standin/target/app"
cp bin/lib/service.options "$app/options"
{
  # all of the service is put together, then it ends before it opens a port or needs its database
  JANDREL_DATABASE_URL=jdbc:postgresql://127.0.0.1:9/none JANDREL_DATABASE_PASSWORD=none JANDREL_KEY_FILE=$app/none/key \
    JANDREL_PORT=0 SPRING_FLYWAY_ENABLED=false java -XX:ArchiveClassesAtExit="$app/service.jsa" -XX:TieredStopAtLevel=1 \
    -XX:+UseParallelGC "@$app/options" -Dspring.context.exit=onRefresh -jar "$app/service.jar" >/dev/null 2>&1 || true
  rm -rf "$app/none"
  [ ! -f "$app/service.jsa" ] || echo "\"-XX:SharedArchiveFile=$app/service.jsa\"" >>"$app/options"
} &
client=$PWD/client/target/jandrel-client-0.1.0-app.jar
if [ -f "$client" ]; then
  # a command that writes JSON and reaches nobody loads what the others need, too
  JANDREL_URL=http://127.0.0.1:9 JANDREL_TOKEN=none java -XX:ArchiveClassesAtExit=client/target/jandrel.jsa \
    -XX:TieredStopAtLevel=1 -XX:+UseSerialGC -jar "$client" exclude nobody@nowhere.example >/dev/null 2>&1 || true
fi
wait
