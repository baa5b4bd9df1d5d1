#!/usr/bin/env bash
# Lays the service out for a quick start: its jar extracted, with an archive of its classes (AppCDS, JEP 350); and the client's.
set -euo pipefail
cd "$(dirname "$0")/../.."
app=service/target/app
rm -rf "$app"
java -Djarmode=tools -jar service/target/jandrel-service-0.1.0-app.jar extract --destination "$app" --force >/dev/null
mv "$app"/jandrel-service-*.jar "$app/service.jar"
if [ -f client/target/jandrel-client-0.1.0.jar ]; then
  java -XX:ArchiveClassesAtExit=client/target/jandrel.jsa -Xshare:auto -XX:TieredStopAtLevel=1 \
    -jar client/target/jandrel-client-0.1.0.jar --help >/dev/null 2>&1 || true
fi
