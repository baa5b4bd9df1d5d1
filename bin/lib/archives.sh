#!/usr/bin/env bash
# Lays the service out for a quick start: its jar extracted, with an archive of its classes (AppCDS, JEP 350); and the client's.
set -euo pipefail
cd "$(dirname "$0")/../.."
app=service/target/app
rm -rf "$app"
java -Djarmode=tools -jar service/target/jandrel-service-0.1.0-app.jar extract --destination "$app" --force >/dev/null
mv "$app"/jandrel-service-*.jar "$app/service.jar"
cp bin/lib/service.options "$app/options"
client=$PWD/client/target/jandrel-client-0.1.0-app.jar
if [ -f "$client" ]; then
  # a command that writes JSON and reaches nobody loads what the others need, too
  JANDREL_URL=http://127.0.0.1:9 JANDREL_TOKEN=none java -XX:ArchiveClassesAtExit=client/target/jandrel.jsa \
    -XX:TieredStopAtLevel=1 -XX:+UseSerialGC -jar "$client" exclude nobody@nowhere.example >/dev/null 2>&1 || true
fi
