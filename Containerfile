# Orexis in a container, from the Debian package: `make image`, then
# podman run --rm --network host --volume orexis:/data orexis
FROM docker.io/library/debian:bookworm-slim
COPY dist/orexis_*.deb /tmp/
RUN apt-get update \
 && apt-get install --yes --no-install-recommends /tmp/orexis_*.deb \
 && rm -rf /tmp/orexis_*.deb /var/lib/apt/lists/* \
 && useradd --create-home --uid 1000 player \
 && install --directory --owner player /data
USER player
VOLUME /data
CMD ["orexis", "serve", "--data", "/data"]
