import java.util.List;
import org.apache.ignite.Ignition;
import org.apache.ignite.configuration.ClientConnectorConfiguration;
import org.apache.ignite.configuration.IgniteConfiguration;
import org.apache.ignite.spi.discovery.tcp.TcpDiscoverySpi;
import org.apache.ignite.spi.discovery.tcp.ipfinder.vm.TcpDiscoveryVmIpFinder;

/** A node of three: its number from 0 on, its folder, the first port of discovery, of clients. */
public class Node {
  public static void main(String[] args) throws Exception {
    int number = Integer.parseInt(args[0]);
    int discovery = Integer.parseInt(args[2]);
    TcpDiscoveryVmIpFinder others = new TcpDiscoveryVmIpFinder();
    others.setAddresses(List.of("127.0.0.1:" + discovery + ".." + (discovery + 2)));
    TcpDiscoverySpi spi = new TcpDiscoverySpi().setIpFinder(others);
    spi.setLocalPort(discovery);
    spi.setLocalPortRange(3);
    int port = Integer.parseInt(args[3]) + number;
    Ignition.start(
        new IgniteConfiguration()
            .setIgniteInstanceName("node" + number)
            .setWorkDirectory(args[1])
            .setLocalHost("127.0.0.1")
            .setDiscoverySpi(spi)
            .setClientConnectorConfiguration(new ClientConnectorConfiguration().setPort(port)));
    System.out.println("ready " + Ignition.ignite("node" + number).cluster().nodes().size());
    Thread.sleep(Long.MAX_VALUE);
  }
}
